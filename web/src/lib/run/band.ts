/** Whether a number passes (Band in mainspring/core/procedure/step.py). */
import type { Of } from './counts';

type Band = Pick<Of<'number'>, 'low' | 'high' | 'tolerance' | 'least' | 'band'>;

/** Whether a number lies in its band; `within` is how close, where that is known of this one. */
export function fits(rule: Band, value: number, expected?: number | null, within?: number): boolean {
	if (rule.low != null && value < rule.low) return false;
	if (rule.high != null && value >= rule.high) return false;
	if (expected == null) return true;
	const off = Math.abs(value - expected);
	if (within !== undefined) return off <= within * (1 + 1e-9);
	if (rule.band != null) return off <= rule.band * (1 + 1e-9);
	return rule.tolerance == null || off <= Math.max(rule.tolerance * Math.abs(expected), rule.least);
}

/** Whether a number is so far off that no note will do. */
export const hopeless = (rule: Of<'number'>, value: number, expected?: number | null): boolean =>
	expected != null && rule.gross != null && Math.abs(value - expected) > rule.gross;
