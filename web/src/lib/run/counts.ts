/** What of a step's evidence counts now, and what it still lacks, by its rules (mainspring/core/procedure/counting.py). */
import type { Schemas } from '../api/client';

export type Rules = Schemas['Rules'];
export type Evidence = Schemas['EvidenceView'];
export type Form = Schemas['Form'];
export type Ask = Form['asks'][number];
export type Of<K extends Ask['ask']> = Extract<Ask, { ask: K }>;

/** Kinds of entry that have to do with whether a step is proven. */
export const proving = (rules: Rules): string[] =>
	Object.keys(rules.forms).filter((kind) => !rules.forms[kind]?.beside);

/** All that is asked of one kind, whatever the form. */
export const asks = <K extends Ask['ask']>(rules: Rules, kind: K): Of<K>[] =>
	Object.values(rules.forms).flatMap((f) => f.asks.filter((a): a is Of<K> => a.ask === kind));

/** Of what was noted, what nobody has put back yet. */
export function stillOpen(
	ask: Pick<Schemas['Noted'], 'noted' | 'undone' | 'key'>,
	mine: readonly Evidence[]
): Evidence[] {
	const back = new Set(mine.filter((e) => e.kind === ask.undone).map((e) => e.data[ask.key]));
	return mine.filter((e) => e.kind === ask.noted && !back.has(e.id));
}

/** What of a step is noted for now and still open. */
export const notBack = (rules: Rules, mine: readonly Evidence[]): Evidence[] =>
	asks(rules, 'none_left').flatMap((ask) => stillOpen(ask, mine));

/** Of a step's evidence in order, what counts now: the latest, or the latest of each part. */
export function inForce(rules: Rules, evidence: readonly Evidence[]): Evidence[] {
	const every = (e: Evidence) => rules.forms[e.kind]?.every ?? false;
	const leavesOut = (e: Evidence) => rules.forms[e.kind]?.leaves_out ?? false;
	const all = evidence.filter((e) => rules.forms[e.kind] && !rules.forms[e.kind]?.beside);
	const last = all.at(-1);
	if (last && leavesOut(last)) return [last];
	const mine = all.filter((e) => !leavesOut(e));
	const part = partOf(rules);
	if (part) {
		const latest = new Map(mine.map((e) => [Number(e.data[part]), e]));
		return [...latest.entries()].sort(([a], [b]) => a - b).map(([, e]) => e);
	}
	const unbegun = asks(rules, 'wait').some((ask) => !mine.some((e) => e.kind === ask.since));
	return [...mine.filter(every), ...(unbegun ? [] : mine.filter((e) => !every(e)).slice(-1))];
}

/** What is still to be proven, of a step made of parts, from what counts now. */
export function lacking(rules: Rules, mine: readonly Evidence[]): string[] {
	const last = mine.findLast((e) => !rules.forms[e.kind]?.every);
	const begun = last && rules.forms[last.kind]?.begins;
	if (begun) return [begun];
	const found: string[] = [];
	for (const ask of asks(rules, 'at')) {
		const there = new Set(mine.map((e) => e.data[ask.key]));
		const wanted = ask.last_will_do ? ask.points.slice(-1) : ask.points;
		found.push(...wanted.filter((p) => !there.has(p.at)).map((p) => p.name));
	}
	for (const ask of asks(rules, 'text').filter((a) => a.unlike)) {
		const said = mine.map((e) => e.data[ask.key]).filter((s): s is string => typeof s === 'string');
		const twice = [...new Set(said.filter((s, i) => said.indexOf(s) !== i))].sort();
		found.push(...twice.map((s) => ask.unlike.replace('{}', s)));
	}
	const lists = asks(rules, 'none_left');
	for (const ask of lists) found.push(...stillOpen(ask, mine).map((e) => String(e.data[ask.what])));
	const again = lists
		.filter(
			(ask) => !last || mine.some((e) => e.kind === ask.noted && Date.parse(e.at) > Date.parse(last.at))
		)
		.map((ask) => ask.again);
	for (const ask of asks(rules, 'all_of')) {
		if (ask.any_will_do || partOf(rules) || !(mine.length || again.length)) continue;
		for (const [key, name] of Object.entries(ask.items)) if (!last || !(key in last.data)) found.push(name);
	}
	return found.length ? found : again;
}

const partOf = (rules: Rules): string | undefined => asks(rules, 'at')[0]?.key;
