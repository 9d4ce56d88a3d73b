/** Sends what waits on this device, in order and once, from whatever page is open. */
import { answer, api, ApiProblem } from '../api/client';
import { session } from '../session.svelte';
import * as outbox from './outbox';
import type { Entry } from './outbox';
import type { Schemas } from '../api/client';

type Kept = Schemas['KeptView'];

/** An entry younger than this, in ms, is one of this moment. */
const FRESH = 5000;
/** How the server calls a step that something before it holds. */
const HELD = 'This step is held';

/**
 * Send what waits of a line until the server does not answer; tells what each changed on the sheet. One that is refused
 * waits for a person and holds back only what is of its step, or what the server holds because of it.
 */
export async function sendLine(
	line: string,
	took: (kept: Kept) => Promise<void>
): Promise<'sent' | 'no link' | 'refused'> {
	let outcome: 'sent' | 'no link' | 'refused' = 'sent';
	await outbox.alone(async () => {
		const waiting = await outbox.waiting(line);
		const dated = datedOf(waiting, session.now());
		const stuck = new Set<string>(); // steps of which one entry waits for a person
		for (const [i, entry] of waiting.entries()) {
			if (!entry.refused && stuck.has(entry.step)) continue;
			const one = entry.refused ? 'refused' : await send(entry, dated[i] ?? true, took, stuck.size > 0);
			if (one === 'no link') {
				outcome = one;
				break;
			}
			if (one === 'refused') {
				stuck.add(entry.step);
				outcome = one;
			}
		}
	});
	return outcome;
}

/**
 * Which entries carry the time of this device: those told as of a time, those that waited, and all behind one that
 * waited. An entry just made rests on the ones before it as they were on this device, however soon the link is back.
 * The others are made now, by the server's own clock.
 */
export function datedOf(entries: Pick<Entry, 'at' | 'told' | 'tried'>[], now: number): boolean[] {
	let late = false;
	return entries.map((entry) => {
		late ||= !entry.told && (!!entry.tried || now - Date.parse(entry.at) > FRESH);
		return late || entry.told;
	});
}

/** Send what waits of every line whose run sheet is not open here, and tell the session what still waits. */
export async function sendAll(open?: string): Promise<void> {
	for (const line of Object.keys(await outbox.lines()))
		if (line !== open && (await sendLine(line, async () => undefined)) === 'sent')
			await fetch(`/api/lines/${line}/run`).catch(() => undefined); // kept for when there is no link
	session.waiting = await outbox.lines();
}

async function send(
	entry: Entry,
	dated: boolean,
	took: (kept: Kept) => Promise<void>,
	behind: boolean
): Promise<'sent' | 'no link' | 'refused' | 'held'> {
	try {
		const kept = await post(entry, dated);
		session.reachable = true;
		await took(kept); // shown before it is let go: sent again it would be the same
		await outbox.remove(entry);
		return 'sent';
	} catch (error) {
		if (!(error instanceof ApiProblem)) throw error;
		if (error.status === 0 || error.status === 503) {
			session.reachable = false;
			if (!entry.tried) await outbox.keep({ ...entry, tried: true });
			return 'no link';
		}
		if (behind && error.problem.title === HELD) return 'held'; // by one that was refused: it goes when that does
		await outbox.keep({ ...entry, refused: { status: error.status, problem: error.problem } });
		return 'refused';
	}
}

async function post(entry: Entry, dated: boolean): Promise<Kept> {
	if (entry.photo) await postPhoto(entry, entry.photo);
	return answer(
		api.POST('/api/lines/{line_id}/evidence', {
			params: { path: { line_id: entry.line } },
			body: {
				id: entry.id,
				step: entry.step,
				kind: entry.kind,
				data: entry.data,
				by: entry.by,
				note: entry.note,
				at: dated ? entry.at : null,
				paper: entry.told,
				instrument: entry.instrument ?? null,
				seen: entry.seen,
				sheet: entry.sheet ?? null, // kept by an older application: as it is now
				running: entry.device ? { device: entry.device, ran: entry.ran ?? 0 } : null
			}
		})
	);
}

async function postPhoto(entry: Entry, photo: Blob): Promise<void> {
	await answer(
		api.PUT('/api/lines/{line_id}/photos/{photo_id}', {
			params: {
				path: { line_id: entry.line, photo_id: String(entry.data['photo']) },
				query: { station: 'run', by: entry.by }
			},
			body: photo as never,
			bodySerializer: (body) => body as never,
			headers: { 'Content-Type': photo.type || 'application/octet-stream' }
		})
	);
}
