/** A loop being tried: what was moved, what the simulation says of it, and taking it into the plan. */
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';

export type Tuned = keyof Schemas['TuningView'];

/** What "Use these settings" writes into the plan; wake follows from the others. */
const KEPT: Tuned[] = [
	'setpoint',
	'gain',
	'integral_time',
	'low_limit',
	'sleep_below',
	'sleep_delay',
	'boost',
	'ramp_up',
	'ramp_down'
];

export class LoopBench {
	loop = $state.raw<Schemas['LoopView'] | null>(null);
	tried = $state<Partial<Record<Tuned, number>>>({});
	texts = $state<Partial<Record<Tuned, string>>>({});
	problem = $state('');
	private asking: AbortController | undefined;

	readonly moved = $derived(Object.keys(this.tried).length > 0);

	constructor(readonly line: LinePage) {}

	private get draft(): { record: LinePage['record']; site_id: string | null } {
		return { record: this.line.record, site_id: this.line.line?.site_id ?? null };
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

	/** Take what was tried into the plan. */
	async use(): Promise<void> {
		const tuning = this.loop?.tuning;
		if (!tuning) return;
		for (const name of KEPT) this.line.set(`control.${name}`, Number(tuning[name].toPrecision(5)));
		this.letGo();
		await this.line.flush();
	}

	/** The working of a figure of this trial: with the values being tried. */
	openWorking(key: string): void {
		const { record, site_id } = this.draft;
		const setpoint = this.tried.setpoint;
		const own =
			setpoint === undefined
				? record
				: { ...record, control: { ...(record['control'] ?? {}), setpoint: { value: setpoint } } };
		session.working = answer(
			api.POST('/api/working', { body: { record: own, site_id, key, tried: { ...this.tried } } })
		);
	}
}
