/** What is being entered for the step in hand: texts typed, what they mean, and a doubt that waits for a word. */
import { session } from '../session.svelte';
import { inSentence } from '../words';
import { asks } from './counts';
import type { Kind, RunSheet } from './run-sheet.svelte';
import { doubts, type Step } from './waiting';

type Data = Record<string, unknown>;
export type Keep = (kind: Kind, data?: Data, note?: string, typed?: string, photo?: Blob) => void;

interface Doubt {
	kind: Kind;
	data: Data;
	/** Prefix of the texts that said it. */
	typed: string;
	names: string[];
	explainable: boolean;
}

export class ProofEntry {
	problem = $state('');
	/** An entry that lies out of its band and waits for a word. */
	doubt = $state.raw<Doubt | null>(null);
	readonly step = $derived.by(() => this.stepOf());
	readonly last = $derived(this.step.evidence.at(-1));
	readonly shut = $derived(this.step.state === 'later' || this.step.state === 'held');
	readonly usual = $derived(Object.keys(this.step.schools)[0] ?? '');
	/** The way of doing it that is taken. */
	readonly school = $derived(this.text('school') || said(this.last?.data['school']) || this.usual);
	/** Whether a way of doing it is chosen beside the proof, and not by it. */
	readonly beside = $derived(
		Object.keys(this.step.schools).length > 1 &&
			!(this.step.proof === 'choice' && this.usual in this.step.choices)
	);
	readonly readings = $derived(
		this.step.readings.map((r) => ({
			...r,
			expected: this.step.schools[this.school]?.expected ?? r.expected
		}))
	);

	constructor(
		private readonly stepOf: () => Step,
		private readonly sheet: RunSheet,
		readonly keep: Keep
	) {}

	text(key: string): string {
		return this.sheet.texts[`${this.step.id}.${key}`] ?? '';
	}

	type(key: string, value: string): void {
		this.sheet.type(`${this.step.id}.${key}`, value);
	}

	/** Let go of what was asked about another step. */
	begin(): void {
		this.problem = '';
		this.doubt = null;
	}

	ticked(prefix: string, key: string, kept?: Data): boolean {
		const typed = this.text(`${prefix}${key}`);
		return typed ? typed === 'yes' : Boolean(kept?.[key]);
	}

	tick(prefix: string, key: string, on: boolean): void {
		this.type(`${prefix}${key}`, on ? 'yes' : 'no');
	}

	/** Items ticked at a prefix, typed over kept. */
	ticks(prefix: string, kept?: Data): Record<string, boolean> {
		return Object.fromEntries(
			Object.keys(this.step.items)
				.filter((key) => this.ticked(prefix, key, kept))
				.map((key) => [key, true])
		);
	}

	/** Numbers typed at a prefix; null where one cannot be read. */
	numbers(prefix: string, columns: Step['readings']): Record<string, number> | null {
		const found: Record<string, number> = {};
		for (const column of columns) {
			const typed = this.text(`${prefix}${column.id}`).trim();
			if (!typed) continue;
			const read = session.units.parse(typed, column.dimension, session.system);
			if (typeof read === 'string') {
				this.problem = `${column.label}: ${read}`;
				return null;
			}
			found[column.id] = read;
		}
		return found;
	}

	/** Readings of this step: what is typed over what is kept; null while one is missing or cannot be read. */
	allReadings(): Record<string, number> | null {
		this.problem = '';
		const typed = this.numbers('', this.step.readings);
		if (!typed) return null;
		const exact = this.step.readings.filter((r) => r.twice);
		const second = this.numbers(
			'',
			exact.map((r) => ({ ...r, id: `${r.id}.again` }))
		);
		if (!second) return null;
		const whole: Record<string, number> = { ...second };
		for (const { id } of exact)
			// what was kept was read twice
			if (typed[id] === undefined && typeof this.last?.data[id] === 'number')
				whole[`${id}.again`] ??= this.last.data[id];
		for (const { id, label, optional, read } of this.step.readings) {
			const value = typed[id] ?? this.last?.data[id] ?? read;
			if (typeof value === 'number') whole[id] = value;
			else if (!optional) {
				this.problem = `${label}: still to be read.`;
				return null;
			}
		}
		return whole;
	}

	/** Keep it, unless it lies out of its band: then ask first. */
	offer(kind: Kind, data: Data, typed: string): void {
		this.problem = '';
		const { out, explainable } = doubts(this.step.rules, kind, data);
		if (!out.length) return this.keep(kind, data, '', typed);
		const names = asks(this.step.rules, 'number')
			.filter((n) => out.includes(n.id))
			.map((n) => inSentence(n.label));
		this.doubt = { kind, data, typed, names, explainable };
	}

	/** Keep what was doubted, with what was said of it. */
	keptAs(word: string): void {
		const waiting = this.doubt;
		this.doubt = null;
		if (waiting) this.keep(waiting.kind, waiting.data, word, waiting.typed);
	}
}

function said(value: unknown): string {
	return typeof value === 'string' ? value : '';
}
