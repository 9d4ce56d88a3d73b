/** A loop being tried: what was moved, what the simulation says of it, and taking it into the plan. */
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';

export type Tuned = keyof Schemas['TuningView'];

/** The settings that the bench tries; wake follows from the others. */
const SETTING: Partial<Record<Tuned, string>> = {
	setpoint: 'pid.setpoint_1',
	gain: 'pid.gain',
	integral_time: 'pid.integral_time',
	low_limit: 'pid.output_low',
	sleep_below: 'sleep.frequency',
	sleep_delay: 'sleep.delay',
	boost: 'sleep.boost',
	ramp_up: 'ramps.up',
	ramp_down: 'ramps.down'
};
/** What the loop rests by: decided by whoever tried it, also where nothing was moved. */
const ALWAYS: Tuned[] = ['low_limit', 'sleep_below'];

/** A setting that would be decided: what is in force now, and what was tried. */
export interface Change {
	name: Tuned;
	setting: string;
	label: string;
	dimension: string | null;
	was: number | null;
	now: number;
}

export class LoopBench {
	loop = $state.raw<Schemas['LoopView'] | null>(null);
	/** What would be decided, while it is looked at. */
	changes = $state.raw<Change[] | null>(null);
	tried = $state<Partial<Record<Tuned, number>>>({});
	texts = $state<Partial<Record<Tuned, string>>>({});
	problem = $state('');
	private asking: AbortController | undefined;

	readonly moved = $derived(Object.keys(this.tried).length > 0);

	constructor(readonly line: LinePage) {}

	private get draft(): { record: LinePage['record']; site_id: string | null; line_id: string | null } {
		const { line } = this.line;
		return { record: this.line.record, site_id: line?.site_id ?? null, line_id: line?.id ?? null };
	}

	/** Try what stands here now; only the latest answer counts. */
	ask(): void {
		const body = { ...this.draft, tried: { ...this.tried } };
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

	/** A value as typed; an empty text takes it back to the plan. */
	move(name: Tuned, text: string, dimension: string): void {
		this.texts[name] = text;
		if (!text.trim()) {
			delete this.tried[name];
			return;
		}
		const read = session.units.parse(text, dimension, session.system);
		if (typeof read === 'number') this.tried[name] = read;
		else this.problem = `${text}: ${read}`;
	}

	slide(setpoint: number): void {
		delete this.texts.setpoint;
		this.tried.setpoint = setpoint;
	}

	/** Back to the plan. */
	letGo(): void {
		this.tried = {};
		this.texts = {};
	}

	/** Old and new of what was touched, to be looked at before it is decided. */
	async propose(): Promise<void> {
		const tuning = this.loop?.tuning;
		if (!tuning) return;
		const path = { line_id: this.line.id };
		const sheet = await answer(api.GET('/api/lines/{line_id}/settings', { params: { path } }));
		const touched = Object.keys(this.tried) as Tuned[];
		this.changes = [...touched, ...ALWAYS.filter((name) => !touched.includes(name))].flatMap(
			(name): Change[] => {
				const row = sheet.rows.find((r) => r.id === SETTING[name]);
				if (!row) return [];
				const kept = row.left ?? row.decided ?? row.planned?.value ?? null;
				const was = typeof kept === 'number' ? kept : null;
				const { id: setting, label, dimension } = row;
				return [{ name, setting, label, dimension, was, now: Number(tuning[name].toPrecision(5)) }];
			}
		);
	}

	/** Decide what was tried. */
	async decide(): Promise<void> {
		for (const { setting, now } of this.changes ?? [])
			await answer(
				api.PUT('/api/lines/{line_id}/settings/{setting}/{moment}', {
					params: { path: { line_id: this.line.id, setting, moment: 'decided' } },
					body: { value: now, why: 'Tried on the loop bench.', by: session.by }
				})
			);
		this.changes = null;
		this.letGo();
		await this.line.refresh();
	}

	/** The working of a figure of this trial: with the values being tried. */
	openWorking(key: string): void {
		const { record, site_id, line_id } = this.draft;
		const setpoint = this.tried.setpoint;
		const own =
			setpoint === undefined
				? record
				: { ...record, control: { ...(record['control'] ?? {}), setpoint: { value: setpoint } } };
		session.working = answer(
			api.POST('/api/working', { body: { record: own, site_id, line_id, key, tried: { ...this.tried } } })
		);
	}
}
