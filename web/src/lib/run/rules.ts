/**
 * Judging an entry by the rules that the server hands out with each step: what a form of entry asks, as data. The
 * server judges by the same (mainspring/core/procedure/evaluate.py); both run the cases in
 * tests/data/judgement_cases.json. No kind of proof is known here by name.
 */
import type { Schemas } from '../api/client';
import { asTitle } from '../words';
import { fits, hopeless } from './band';
import { proving, stillOpen, type Ask, type Evidence, type Form, type Of, type Rules } from './counts';
import { secondsWaited, type Made } from './waited';

type Data = Record<string, unknown>;

/** `refused` cannot be taken, `held` not now; what is taken proves its step or fails it. */
export type Verdict =
	| { answer: 'passed' | 'failed'; data: Data; out: string[]; explainable: boolean }
	| { answer: 'refused' | 'held'; why: string };

class No extends Error {
	constructor(
		readonly answer: 'refused' | 'held',
		why: string
	) {
		super(why);
	}
}

const refuse = (why: string): never => {
	throw new No('refused', why);
};
const hold = (why: string): never => {
	throw new No('held', why);
};

/** What an entry is by the rules of its step; `mine` is the step's own evidence, in order. */
export function judge(rules: Rules, made: Made, mine: readonly Evidence[] = []): Verdict {
	try {
		const form = rules.forms[made.kind] ?? refuse(`This step is proven by ${proving(rules).join(' or ')}.`);
		if (form.never) hold(form.never);
		const entry = new Entry(form, { ...made, note: made.note.trim() }, mine);
		form.asks.forEach((ask) => entry.take(ask));
		return entry.verdict();
	} catch (error) {
		if (error instanceof No) return { answer: error.answer, why: error.message };
		throw error;
	}
}

/** An entry on its way through what its form asks. */
class Entry {
	private readonly found: Data = {};
	private readonly numbers: [Of<'number'>, number][] = [];
	private proves: boolean;
	private part: Schemas['Point'] | undefined;
	private way: Schemas['Option'] | undefined;

	constructor(
		private readonly form: Form,
		private readonly made: Made,
		private readonly mine: readonly Evidence[]
	) {
		this.proves = !form.begins;
	}

	take(ask: Ask): void {
		(this[ask.ask] as (ask: Ask) => void)(ask);
	}

	verdict(): Verdict {
		const off = this.numbers.filter(
			([n, value]) => !fits(n, value, this.expected(n), this.part?.within?.[n.id])
		);
		const out = off.map(([n]) => n.id);
		const explainable = this.form.explains && !off.some(([n, value]) => hopeless(n, value, this.expected(n)));
		const excused = !out.length || this.form.as_found || (explainable && this.made.note !== '');
		const data = out.length ? { ...this.found, out } : this.found;
		return { answer: this.proves && excused ? 'passed' : 'failed', data, out, explainable };
	}

	private expected(ask: Of<'number'>): number | null | undefined {
		return this.part ? this.part.expected[ask.id] : this.way ? this.way.expected : ask.expected;
	}

	private said(key: string): unknown {
		return this.made.data[key];
	}

	private number(ask: Of<'number'>): void {
		const value = this.said(ask.id);
		const unforetold = this.part !== undefined && !Object.keys(this.part.expected).length;
		if (value == null && (ask.optional || unforetold)) return;
		const read = numberIn(ask, value);
		this.found[ask.id] = read;
		this.numbers.push([ask, read]);
		if (ask.twice && Math.abs(numberIn(ask, this.said(`${ask.id}.again`)) - read) > 1e-9 * Math.abs(read))
			refuse(`${ask.label}: the two readings are not the same number.`);
	}

	private one_of(ask: Of<'one_of'>): void {
		const said = this.said(ask.key) ?? (ask.usual ? Object.keys(ask.options)[0] : undefined);
		const option = typeof said === 'string' ? ask.options[said] : undefined;
		if (!option)
			return void refuse(`${ask.label}: one of ${Object.values(ask.options).map((o) => o.label).join(', ')}.`); // prettier-ignore
		if (option.asks_why && !this.made.note)
			refuse(`Say why: “${option.label}”. It stays on the sheet with your name.`);
		this.found[ask.key] = said;
		this.proves &&= ask.right === '*' || ask.right === said;
		if (ask.usual) this.way = option;
	}

	private all_of(ask: Of<'all_of'>): void {
		const { data } = this.made;
		if (ask.only && Object.keys(data).some((key) => !(key in ask.items))) refuse('That is not on the list.');
		const seen = Object.keys(ask.items).filter((key) => data[key] === true || data[key] === 1);
		if (ask.only && !seen.length) refuse('At least one of the list is to be seen.');
		for (const key of seen) this.found[key] = 1;
		this.proves &&= ask.any_will_do || seen.length === Object.keys(ask.items).length;
	}

	private text(ask: Of<'text'>): void {
		const said = this.said(ask.key) ?? '';
		const text = typeof said === 'string' ? said.trim() : refuse(`${ask.label}: words are wanted.`);
		if (text.length < ask.least) refuse(`${ask.label}: still to be said.`);
		if (text.length > ask.most) refuse(`${ask.label}: up to ${ask.most} characters.`);
		if (text) this.found[ask.key] = text;
	}

	private at(ask: Of<'at'>): void {
		const part =
			ask.points.find((p) => p.at === this.said(ask.key)) ?? refuse(`There is no such ${ask.label}.`);
		const read = this.form.asks.filter((a) => a.ask === 'number');
		if (read.length && read.every((n) => this.said(n.id) == null)) refuse('At least one reading is wanted.');
		this.part = part;
		this.found[ask.key] = part.at;
	}

	private more(ask: Of<'more'>): void {
		const [first, second] = ask.options;
		const left = this.found[ask.key];
		const both = this.numbers.some(([n]) => n.id.startsWith(`${second}_`));
		const rule = ask.foretold;
		const alone = rule ? this.found[rule.id] : undefined;
		let better = moreOf(ask, this.found);
		if (!better && rule && !both && left === first && typeof alone === 'number')
			better = fits(rule, alone, rule.expected) ? first : undefined;
		if (!better) refuse(asTitle(`${`${second}_${ask.measures.at(-1) ?? ''}` in this.found ? ask.same : ask.single}.`)); // prettier-ignore
		this.found['better'] = better;
		this.proves &&= left === better;
	}

	private wait(ask: Of<'wait'>): void {
		const end = this.made;
		const start = this.mine.findLast((e) => e.kind === ask.since && Date.parse(e.at) <= Date.parse(end.at));
		if (!start) return void hold('the clock has not been started');
		if (end.sure === false && !end.paper && start.device !== end.device)
			hold(
				'no clock ran through this wait: this device was started anew without a link. Start the wait anew'
			);
		const waited = secondsWaited(start, end);
		if (waited < 0) hold('the clock went back since the wait was started: start it anew');
		const left = Math.ceil(ask.seconds - waited);
		const [minutes, seconds] = [Math.floor(left / 60), String(left % 60).padStart(2, '0')];
		if (left > 0) hold(`${minutes} min ${seconds} s left on the clock; the wait cannot be cut short`);
	}

	private noted(ask: Of<'noted'>): void {
		const of = this.said(ask.key);
		if (!stillOpen(ask, this.mine).some((e) => e.id === of)) refuse('That is not on the list any more.');
		this.found[ask.key] = of;
	}

	private none_left(ask: Of<'none_left'>): void {
		const open = stillOpen(ask, this.mine).map((e) => `“${String(e.data[ask.what])}” is not back yet`);
		if (open.length) hold(open.join('; '));
	}

	private why(ask: Of<'why'>): void {
		if (!this.made.note) refuse(`${asTitle(ask.label)}: ${ask.words}.`);
	}
}

function numberIn(ask: Of<'number'>, value: unknown): number {
	if (typeof value !== 'number' || !(Math.abs(value) < ask.most))
		return refuse(`${ask.label}: a reading is wanted.`);
	return value < 0 && ask.positive ? refuse(`${ask.label}: not below 0.`) : value;
}

/** Which of two gave more: by the first measure of both that tells them apart. */
function moreOf(ask: Of<'more'>, found: Data): string | undefined {
	for (const measure of ask.measures) {
		const [one, other] = ask.options.map((side) => found[`${side}_${measure}`]);
		if (typeof one !== 'number' || typeof other !== 'number') continue;
		if (Math.abs(one - other) > ask.apart * Math.max(Math.abs(one), Math.abs(other)))
			return ask.options[one > other ? 0 : 1];
	}
	return undefined;
}
