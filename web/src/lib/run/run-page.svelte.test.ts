/** Which step is in hand: it follows the work, unless the person went somewhere. */
import { expect, it } from 'vitest';
import { changedText, markOf, RunPage } from './run-page.svelte';
import type { RunSheet } from './run-sheet.svelte';
import type { Step } from './waiting';

const step = (id: string, state: string, more: object = {}) =>
	({
		id,
		title: `Step ${id}`,
		state,
		changed: [],
		evidence: [],
		units: 0,
		table: null,
		waiting: false,
		...more
	}) as unknown as Step;

function page(steps: Step[], kept: (at: Stub) => void = () => undefined): { at: RunPage; sheet: Stub } {
	const sheet: Stub = $state({ run: { steps }, problem: '', keep: async () => kept(sheet) });
	return { at: new RunPage(sheet as unknown as RunSheet), sheet };
}
interface Stub {
	run: { steps: Step[] };
	problem: string;
	keep: () => Promise<void>;
}

it('begins at the first step that can be done, else at what is stale, else at the end', () => {
	expect(page([step('a', 'done'), step('b', 'next'), step('c', 'next')]).at.step?.id).toBe('b');
	expect(page([step('a', 'stale'), step('b', 'done')]).at.step?.id).toBe('a');
	expect(page([step('a', 'done'), step('b', 'left_out')]).at.step?.id).toBe('b');
	expect(page([]).at.step).toBeUndefined();
	expect(page([step('a', 'done'), step('b', 'left_out'), step('c', 'next')]).at.done).toBe(2);
});

it('goes on when an entry settled the step, and stays when it did not', async () => {
	const after = (state: string) => (sheet: Stub) => {
		sheet.run = { steps: [step('a', state), step('b', 'next')] };
	};
	const settled = page([step('a', 'next'), step('b', 'later')], after('done')).at;
	await settled.keep('tick');
	expect(settled.step?.id).toBe('b');
	const failed = page([step('a', 'next'), step('b', 'later')], after('failed')).at;
	await failed.keep('readings');
	expect(failed.step?.id).toBe('a');
	const noted = page([step('a', 'next'), step('b', 'later')], after('done')).at;
	await noted.keep('note');
	expect(noted.step?.id).toBe('a');
});

it('does not pull somebody back who went elsewhere while it was sent', async () => {
	const { at } = page([step('a', 'next'), step('b', 'next'), step('c', 'next')], (sheet) => {
		at.goTo('c');
		sheet.run = { steps: [step('a', 'done'), step('b', 'next'), step('c', 'next')] };
	});
	await at.keep('tick');
	expect(at.step?.id).toBe('c');
	at.move(-1);
	expect(at.step?.id).toBe('b');
});

it('says on the sheet what could not be kept', async () => {
	const { at, sheet } = page([step('a', 'next')], () => {
		throw new Error('this device is full');
	});
	await at.keep('tick');
	expect(sheet.problem).toBe('this device is full');
	expect(at.busy).toBe(false);
});

it('marks each step in the list by what matters of it', () => {
	expect(markOf(step('a', 'done', { waiting: true }))).toBe('waiting');
	expect(markOf(step('a', 'left_out'))).toBe('left out');
	expect(markOf(step('a', 'stale'))).toBe('stale');
	const rows = [{ read: { speed: 1 } }, { read: {} }, { read: {} }];
	expect(markOf(step('a', 'next', { table: { rows } }))).toBe('1 of 3');
	expect(markOf(step('a', 'next', { units: 6, evidence: [{}, {}] }))).toBe('2 of 6');
	expect(markOf(step('a', 'next'))).toBe('');
	const change = { label: 'Nominal voltage', was: null, now: 'star', dimension: null } as never;
	expect(changedText(change)).toBe('nominal voltage was nothing, is star');
});
