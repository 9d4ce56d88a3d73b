/** Where the run sheet stands: the state of every step and what each waits for (mainspring/core/procedure/status.py). */
import { asks, lacking, type Evidence, type Rules } from './counts';

export interface Standing {
	rules: Rules;
	/** What counts now. */
	mine: readonly Evidence[];
	/** Whether what it rests on has changed. */
	changed: boolean;
}

export interface Stand {
	state: string;
	/** Of what was handed in, what counts where a step was opened anew. */
	mine: Evidence[];
	lacking: string[];
	heldBy: string[];
	waitOnPaper: string;
}

/** State of every step, and what each waits for. */
export function stand(steps: readonly Standing[]): Stand[] {
	const titles = new Map(steps.map((s) => [s.rules.step, s.rules.title]));
	const proven = new Set<string>();
	const onPaper = new Map<string, string>();
	let nextGiven = false;
	const wrong = steps.flatMap((s) => turnedWrong(s).map((at) => ({ at, opens: opensAnew(s.rules) })));
	return steps.map(({ rules, mine: every, changed }) => {
		const anew = wrong.filter((w) => w.opens.includes(rules.step)).map((w) => w.at);
		const mine = every.filter((e) => anew.every((at) => Date.parse(e.at) > at));
		const leftOut = rules.forms[mine.at(-1)?.kind ?? '']?.leaves_out ?? false;
		const open = leftOut ? [] : lacking(rules, mine);
		const complete = mine.length > 0 && open.length === 0 && mine.every((e) => e.passed);
		const gates = wrong.length
			? [...rules.after, ...opensAnew(rules), ...beforeIt(rules, wrong)]
			: rules.after;
		const first = gates
			.filter((id) => titles.has(id) && !proven.has(id))
			.map((id) => `“${titles.get(id) ?? id}” comes first`);
		let state = 'next';
		if (leftOut) state = 'left_out';
		else if (complete) state = changed ? 'stale' : 'done';
		else if (!first.length && mine.some((e) => !e.passed && !rules.forms[e.kind]?.begins)) state = 'failed';
		else if (rules.stops.length && (!first.length || !nextGiven)) state = 'held';
		else if (rules.stops.length || first.length) state = 'later';
		if (complete || leftOut) proven.add(rules.step);
		else if (state === 'next' || state === 'held' || state === 'failed') nextGiven = true;
		if (asks(rules, 'wait').length && mine.some((e) => e.paper)) onPaper.set(rules.step, rules.title);
		const wait = rules.after.find((id) => onPaper.has(id));
		return {
			state,
			mine,
			lacking: open,
			heldBy: [...rules.stops, ...first],
			waitOnPaper: wait ? (onPaper.get(wait) ?? '') : ''
		};
	});
}

/** A sheet that a device kept from before this was told does not have it. */
function opensAnew(rules: Rules): string[] {
	return (rules.reopens as string[] | undefined) ?? [];
}

/** Of what was opened anew, what comes before a step of it: no power before it was said which leads were swapped. */
function beforeIt(rules: Rules, wrong: readonly { opens: string[] }[]): string[] {
	return wrong.flatMap((w) => w.opens.slice(0, Math.max(w.opens.indexOf(rules.step), 0)));
}

/** Whether a step's answer, in force, opens others anew. */
export const opensOthers = (step: Standing): boolean => turnedWrong(step).length > 0;

/** When a step's wrong answer, in force, was given; not where it is put right in the drive. */
function turnedWrong({ rules, mine }: Standing): number[] {
	if (!opensAnew(rules).length) return [];
	return mine.filter((e) => !e.passed && e.data['school'] !== 'drive').map((e) => Date.parse(e.at));
}

const OPEN = new Set(['next', 'failed', 'stale', 'done', 'left_out']);

/** Why a step may not be proven now; empty where it may. */
export function shutBy(rules: Rules, at: Stand, kind: string, paper: boolean): string {
	const form = rules.forms[kind];
	if (form && (form.beside || form.any_time || form.leaves_out)) return '';
	if (rules.stops.length) return `held: ${rules.stops.join('; ')}`;
	if (!OPEN.has(at.state)) return at.heldBy.join('; ') || 'an earlier step comes first';
	if (at.waitOnPaper && !paper)
		return `${at.waitOnPaper} was entered from paper, which opens nothing that is done now: wait again`;
	return '';
}
