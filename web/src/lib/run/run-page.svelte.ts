/** Which step of a run sheet is in hand, and how each is marked in the list. */
import type { Schemas } from '../api/client';
import { session } from '../session.svelte';
import { clock, inSentence } from '../words';
import { notBack } from './counts';
import type { Kind, RunSheet } from './run-sheet.svelte';
import type { Step } from './waiting';

export class RunPage {
	/** The step that the person went to; null follows the work. */
	chosen = $state<string | null>(null);
	/** Whether the visit is open in place of the step. */
	atVisit = $state(false);
	/** Whether the list of steps is open on a phone, where it has no room of its own. */
	atList = $state(false);
	busy = $state(false);
	/** The person is on another page by now. */
	gone = false;

	readonly steps = $derived.by<Step[]>(() => this.sheet.run?.steps ?? []);
	/** What is next, of what can be done. */
	readonly first = $derived(
		this.steps.find((s) => s.state === 'next' || s.state === 'held' || s.state === 'failed')
	);
	readonly step = $derived(
		this.steps.find((s) => s.id === this.chosen) ??
			this.first ??
			this.steps.find((s) => s.state === 'stale') ??
			this.steps.at(-1)
	);
	readonly stale = $derived(this.steps.filter((s) => s.changed.length));
	/** What was changed for the work and is not back yet. */
	readonly behind = $derived(this.steps.flatMap((s) => notBack(s.rules, s.evidence)));
	readonly done = $derived(this.steps.filter(settled).length);

	constructor(readonly sheet: RunSheet) {}

	goTo(id: string): void {
		this.chosen = id;
		this.atVisit = this.atList = false;
	}

	/** To the step before or after. */
	move(by: 1 | -1): void {
		if (!this.step) return;
		this.chosen = this.steps[this.steps.indexOf(this.step) + by]?.id ?? this.chosen;
	}

	/** Keep an entry of the step in hand and go on where that settled it, unless the person went elsewhere meanwhile. */
	async keep(
		kind: Kind,
		data: Record<string, unknown> = {},
		note = '',
		typed = '',
		photo?: Blob
	): Promise<void> {
		const { step, chosen: stood } = this;
		if (!step) return;
		this.busy = true;
		try {
			await this.sheet.keep(step, kind, data, note, typed, photo);
			if (this.gone) return;
			const after = this.steps.find((s) => s.id === step.id);
			if (this.chosen === stood) this.chosen = goesOn(kind, step, after) ? null : step.id;
		} catch (error) {
			this.sheet.problem = (error as Error).message;
		}
		this.busy = false;
	}

	/** Note what was changed for the work and must be put back; the step in hand stays in hand. */
	async changedForNow(what: string): Promise<void> {
		const list = this.steps.find((s) => s.id === 'finish.put_back');
		if (!list) return;
		try {
			await this.sheet.keep(list, 'temporary', { what });
		} catch (error) {
			this.sheet.problem = (error as Error).message;
		}
	}

	titleOf(id: string): string {
		return inSentence(this.steps.find((s) => s.id === id)?.title ?? id);
	}
}

/** Whether an entry leads on: it settled its step, or opened earlier ones anew. */
function goesOn(kind: Kind, before: Step, after: Step | undefined): boolean {
	if (kind === 'start' || kind === 'note' || !after || before.state === after.state) return false;
	return settled(after) || after.state === 'later';
}

function settled(step: Step): boolean {
	return step.state === 'done' || step.state === 'left_out';
}

/** What stands behind a step in the list: its state in a word, its time, or how much of it is there. */
export function markOf(step: Step): string {
	const last = step.evidence.at(-1);
	if (step.waiting) return 'waiting';
	if (step.state === 'left_out') return 'left out';
	if (step.state === 'stale' || step.state === 'held') return step.state;
	if (step.state === 'done' && last) return clock(last.at);
	const read = step.table?.rows.filter((r) => Object.keys(r.read).length).length ?? step.evidence.length;
	const all = step.table?.rows.length ?? step.units;
	return all && read ? `${read} of ${all}` : '';
}

/** A change that made a proof stale, in words. */
export function changedText(change: Schemas['ChangedView']): string {
	const said = (v: number | string | null) =>
		v === null ? 'nothing' : typeof v === 'number' ? session.show(v, change.dimension) : v;
	return `${inSentence(change.label)} was ${said(change.was)}, is ${said(change.now)}`;
}
