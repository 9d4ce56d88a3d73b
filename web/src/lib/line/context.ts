/** The open line, handed from the line's layout to everything on its pages. */
import { getContext, setContext } from 'svelte';
import type { LinePage } from './line-page.svelte';

const KEY = Symbol('line');

export function provideLine(page: () => LinePage): void {
	setContext(KEY, page);
}

export function openLine(): LinePage {
	return getContext<() => LinePage>(KEY)();
}
