/** The open line, handed from the line's layout to everything on its pages. */
import { getContext, setContext } from 'svelte';
import type { Schemas } from '../api/client';
import type { Entry, LinePage, Value } from './line-page.svelte';

/** Whatever holds entries that a field shows and changes: an open line, or a site. */
export interface Holder {
	entry(path: string): Entry | undefined;
	set(path: string, value: Value | undefined, provenance?: string, typed?: string): void;
	readonly assessment: Pick<Schemas['AssessmentView'], 'problems' | 'findings'> | null;
}

const KEY = Symbol('line');

export function provideLine(page: () => LinePage): void {
	setContext(KEY, page);
}

export function provideHolder(page: () => Holder): void {
	setContext(KEY, page);
}

export function openLine(): LinePage {
	return getContext<() => LinePage>(KEY)();
}

export function openHolder(): Holder {
	return getContext<() => Holder>(KEY)();
}
