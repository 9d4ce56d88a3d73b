/** The typed door to the server. A failed call throws `ApiProblem`, whose text is for the person at the screen. */
import createClient from 'openapi-fetch';
import { noticed } from './busy.svelte';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];

export class ApiProblem extends Error {
	constructor(
		readonly status: number,
		readonly problem: Problem
	) {
		super(problem.detail);
	}
}

export const api = createClient<paths>({
	baseUrl: location.origin,
	fetch: noticed
});

/** In which units this person reads; refusals come in them. The session keeps it. */
export const reader: { units: Schemas['NewSite']['units'] } = { units: 'si' };

api.use({
	onRequest({ request }) {
		request.headers.set('X-Units', reader.units);
		return request;
	}
});

interface Answer<T> {
	data?: T;
	error?: unknown;
	response: Response;
}

/** The data of a call, or ApiProblem; a server that does not answer is status 0. */
export async function answer<T>(call: Promise<Answer<T>>): Promise<T> {
	let got: Answer<T>;
	try {
		got = await call;
	} catch (error) {
		if (error instanceof DOMException && error.name === 'AbortError') throw error;
		throw new ApiProblem(0, problem(0, 'The server does not answer. What you typed stays on this device.'));
	}
	if (got.data !== undefined && got.response.ok) return got.data;
	const found = got.error as Problem | undefined;
	throw new ApiProblem(
		got.response.status,
		found?.detail ? found : problem(got.response.status, `The server answered ${got.response.status}.`)
	);
}

function problem(status: number, detail: string): Problem {
	return { title: detail, status, detail, errors: [], current: null };
}
