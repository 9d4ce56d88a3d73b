/** One judgement: the cases that the server runs through too (tests/core/test_judgement.py). */
import { describe, expect, it } from 'vitest';
import text from '../../../../tests/data/judgement_cases.json?raw';
import rulesText from '../../../../tests/data/judgement_rules.json?raw';
import { inForce, type Evidence, type Rules } from './counts';
import { judge } from './rules';
import { shutBy, stand } from './standing';
import { doubts } from './waiting';
import type { Made } from './waited';

type Case = Partial<Made> & {
	name: string;
	rules: string;
	kind: string;
	data: Record<string, unknown>;
	expect: string;
	out?: string[];
	earlier?: Partial<Evidence>[];
};
type Sheet = {
	name: string;
	steps: (Partial<Rules> & { rules: string })[];
	entries: (Partial<Made> & { step: string; kind: string; data: Record<string, unknown>; answer: string })[];
	states: string[];
	lacking?: string[][];
};
const RULES = JSON.parse(rulesText) as Record<string, Rules>;
const file = JSON.parse(text) as {
	cases: Case[];
	sheets: Sheet[];
};

const rules = (name: string, more: Partial<Rules> = {}): Rules => ({ ...(RULES[name] as Rules), ...more });

const made = (of: Partial<Made>): Made => ({ note: '', at: '2026-03-02T09:00:00+00:00', ...of }) as Made;
const kept = (of: Partial<Evidence>): Evidence =>
	({ id: '', by: 'Ana', passed: true, note: '', out: [], instrument: null, received: null, paper: false, clock: null, data: {}, ...of }) as Evidence; // prettier-ignore

describe('an entry is judged as the file says', () => {
	it.each(file.cases)('$name', (of) => {
		const verdict = judge(rules(of.rules), made(of), (of.earlier ?? []).map(kept));
		expect(verdict.answer).toBe(of.expect);
		if (of.out) expect('out' in verdict ? verdict.out : []).toEqual(of.out);
	});
});

describe('a sheet stands as the file says', () => {
	it.each(file.sheets)('$name', (of) => {
		const steps = of.steps.map(({ rules: name, ...more }) => rules(name, more));
		const mine = steps.map((): Evidence[] => []);
		const standing = () =>
			stand(steps.map((r, i) => ({ rules: r, mine: inForce(r, mine[i] ?? []), changed: false })));
		for (const entry of of.entries) {
			const i = steps.findIndex((r) => r.step === entry.step);
			const [step, before] = [steps[i] as Rules, mine[i] as Evidence[]];
			const at = standing()[i];
			const shut = at ? shutBy(step, at, entry.kind, entry.paper ?? false) : 'no such step';
			const verdict = shut ? { answer: 'held' as const, why: shut } : judge(step, made(entry), before);
			expect(verdict.answer).toBe(entry.answer);
			if (!('why' in verdict))
				before.push(
					kept({ ...made(entry), data: verdict.data, out: verdict.out, passed: verdict.answer === 'passed' })
				);
		}
		const found = standing();
		expect(found.map((s) => s.state)).toEqual(of.states);
		if (of.lacking) expect(found.map((s) => s.lacking)).toEqual(of.lacking);
	});
});

describe('what lies out of its band', () => {
	it('is asked about, and may be explained only where that helps', () => {
		expect(doubts(rules('absence'), 'readings', { l1: 60, l2: 0 })).toEqual({
			out: ['l1'],
			explainable: false
		});
		expect(doubts(rules('gross'), 'readings', { i: 0.013 })).toEqual({ out: ['i'], explainable: true });
		expect(doubts(rules('gross'), 'readings', { i: 0.004 })).toEqual({ out: ['i'], explainable: false });
		expect(doubts(rules('signal'), 'row', { reference: 0, up: 0.012 })).toEqual({
			out: ['up'],
			explainable: false
		});
		expect(doubts(rules('precharge'), 'readings', { air: 260000, school: 'below' }).out).toEqual([]);
		expect(doubts(rules('precharge'), 'readings', {}).out).toEqual([]);
	});
});

it('opens lock, wait and measuring anew where it turned the wrong way, also without a link', () => {
	const reopens = ['a.lock', 'a.power'];
	const steps = [
		{ rules: rules('tick', { step: 'a.lock', title: 'Lock' }), at: '09:00' },
		{ rules: rules('tick', { step: 'a.power', title: 'Power', after: ['a.lock'] }), at: '09:10' },
		{ rules: rules('rotation', { step: 'b.turn', title: 'Turn', after: ['a.power'], reopens }), at: '' }
	];
	const at = (time: string, more: Partial<Evidence> = {}) =>
		kept({ kind: 'tick', at: `2026-03-02T${time}:00+00:00`, ...more });
	const wrong = at('09:20', { kind: 'choice', data: { choice: 'wrong' }, passed: false });
	const states = (mine: Evidence[][]) =>
		stand(steps.map(({ rules: of }, i) => ({ rules: of, mine: mine[i] ?? [], changed: false }))).map(
			(s) => s.state
		);
	expect(states([[at('09:00')], [at('09:10')], [wrong]])).toEqual(['next', 'later', 'later']);
	expect(states([[at('09:30')], [at('09:10')], [wrong]])).toEqual(['done', 'next', 'later']);
	expect(states([[at('09:30')], [at('09:40')], [wrong]])).toEqual(['done', 'done', 'failed']);
	const byDrive = { ...wrong, data: { choice: 'wrong', school: 'drive' } };
	expect(states([[at('09:00')], [at('09:10')], [byDrive]])).toEqual(['done', 'done', 'failed']);
});
