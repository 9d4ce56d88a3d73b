/** A loop being tried: what was moved, what the simulation says of it, runs kept beside it, and taking it into the plan. */
import { untrack } from 'svelte';
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';

export type Loop = Schemas['LoopView'];
export type Knob = Schemas['KnobView'];

/** What the loop rests by: decided by whoever tried it, also where nothing was moved. */
const ALWAYS = ['low_limit', 'sleep_below'];
export const MOST_RUNS = 4;

/** A setting that would be decided: what is in force now, and what was tried. */
export interface Change {
	setting: string;
	label: string;
	dimension: string | null;
	was: number | null;
	now: number;
}

/** A run kept for comparison: its trace, and in what it differs from the plan. */
export interface Kept {
	name: string;
	loop: Loop;
}

export class LoopBench {
	loop = $state.raw<Loop | null>(null);
	/** What would be decided, while it is looked at. */
	changes = $state.raw<Change[] | null>(null);
	/** Why it would be decided. */
	why = $state('Tried on the loop bench.');
	tried = $state<Record<string, number>>({});
	texts = $state<Record<string, string>>({});
	profile = $state('minutes');
	/** A demand of one's own: times in s, shares of full. */
	own = $state.raw<[number, number][]>([]);
	mishap = $state<'' | 'lost' | 'dry' | 'filling' | 'second' | 'coast'>('');
	kept = $state.raw<Kept[]>([]);
	/** The same tuning on many plants, drawn as a band; stale once something moves. */
	spread = $state.raw<Schemas['SpreadView'] | null>(null);
	problem = $state('');
	/** How a tool found what is tried; empty once somebody moved something by hand. */
	private found = '';
	private asking: AbortController | undefined;

	readonly moved = $derived(Object.keys(this.tried).length > 0);

	constructor(readonly line: LinePage) {}

	/** The record and what is asked of it, as every part of the bench sends it. */
	get body(): Schemas['LoopDraft'] {
		const { line } = this.line;
		const lasts = untrack(() => this.loop?.duration) ?? 600; // an answer must not ask again
		return {
			record: this.line.record,
			site_id: line?.site_id ?? null,
			line_id: line?.id ?? null,
			tried: { ...this.tried },
			profile: this.profile,
			own: this.own,
			lost_at: this.mishap === 'lost' ? lasts / 4 : null,
			dry_at: this.mishap === 'dry' ? lasts / 4 : null,
			second_at: this.mishap === 'second' ? lasts / 4 : null,
			coasts: this.mishap === 'coast',
			filling: this.mishap === 'filling'
		} as Schemas['LoopDraft'];
	}

	/** Try what stands here now; only the latest answer counts. */
	ask(): void {
		const body = this.body;
		this.asking?.abort();
		this.asking = new AbortController();
		answer(api.POST('/api/loop', { body, signal: this.asking.signal }))
			.then((found) => {
				this.loop = found;
				this.problem = '';
			})
			.catch((error: unknown) => {
				if (error instanceof ApiProblem) this.problem = error.message;
			});
	}

	knob(id: string): Knob | undefined {
		return this.loop?.knobs.find((k) => k.id === id);
	}

	/** A value as typed; an empty text takes it back to the plan. */
	move(knob: Pick<Knob, 'id' | 'dimension'>, text: string): void {
		this.texts[knob.id] = text;
		this.spread = null;
		this.found = '';
		if (!text.trim()) {
			delete this.tried[knob.id];
			return;
		}
		const read = session.units.parse(text, knob.dimension, session.system);
		if (typeof read === 'number') this.tried[knob.id] = read;
		else this.problem = `${text}: ${read}`;
	}

	/** A value as slid to, at the digits that a drive can hold. */
	slide(id: string, value: number): void {
		this.found = '';
		delete this.texts[id];
		this.tried[id] = held(value);
		this.spread = null;
	}

	/** Several values at once, as one of the tools found them, and how it did. */
	take(values: Record<string, number>, reason = ''): void {
		for (const [id, value] of Object.entries(values)) this.slide(id, value);
		this.found = reason;
	}

	/** Back to the plan. */
	letGo(): void {
		this.tried = {};
		this.texts = {};
		this.spread = null;
		this.found = '';
	}

	/** Keep this run to compare the next with. */
	keep(): void {
		if (!this.loop?.times.length || this.kept.length >= MOST_RUNS - 1) return;
		this.kept = [...this.kept, { name: this.told(), loop: this.loop }];
	}

	drop(kept: Kept): void {
		this.kept = this.kept.filter((k) => k !== kept);
	}

	/** In what this run differs from the plan. */
	told(): string {
		const parts = Object.keys(this.tried).map((id) => {
			const knob = this.knob(id);
			return knob
				? `${knob.label} ${session.show(this.tried[id] ?? 0, knob.dimension)}`
				: `${id} ${this.tried[id]}`;
		});
		return parts.slice(0, 2).join(', ') + (parts.length > 2 ? ' …' : '') || 'as planned';
	}

	/** Old and new of what was touched, to be looked at before it is decided. */
	async propose(why = this.found || 'Tried on the loop bench.'): Promise<void> {
		if (!this.loop?.times.length) return;
		const path = { line_id: this.line.id };
		const sheet = await answer(api.GET('/api/lines/{line_id}/settings', { params: { path } }));
		const touched = Object.keys(this.tried);
		this.why = why;
		this.changes = [...touched, ...ALWAYS.filter((id) => !touched.includes(id))].flatMap((id): Change[] => {
			const knob = this.knob(id);
			const row = knob?.setting ? sheet.rows.find((r) => r.id === knob.setting) : undefined;
			if (!knob || !row) return [];
			const kept = row.left ?? row.decided ?? row.planned?.value ?? null;
			const was = typeof kept === 'number' ? kept : null;
			const now = Number((this.tried[id] ?? knob.value).toPrecision(5));
			if (ALWAYS.includes(id) && !touched.includes(id) && row.decided === now) return [];
			return [{ setting: row.id, label: row.label, dimension: row.dimension, was, now }];
		});
	}

	/** Decide what was tried. */
	async decide(): Promise<void> {
		if (!(await session.signed())) return;
		for (const { setting, now } of this.changes ?? [])
			await answer(
				api.PUT('/api/lines/{line_id}/settings/{setting}/{moment}', {
					params: { path: { line_id: this.line.id, setting, moment: 'decided' } },
					body: { value: now, why: this.why, by: session.by }
				})
			);
		this.changes = null;
		this.letGo();
		await this.line.refresh();
	}

	/** The working of a figure of this trial: with the values being tried. */
	openWorking(key: string, measured: number | null = null): void {
		const { record, ...rest } = this.body;
		session.working = answer(api.POST('/api/working', { body: { ...rest, record, key, measured } }));
	}
}

/** A value at the digits that a drive can hold. */
export function held(value: number): number {
	return Number(value.toPrecision(4));
}
