/** How labels and moments read in the running text. */

/** A label inside a sentence: `Line volts` becomes `line volts`; `L1 to L2` and `DC bus` stay. */
export function inSentence(label: string): string {
	const named = /^\S+?[A-Z\d]/.test(label);
	return named ? label : label.charAt(0).toLowerCase() + label.slice(1);
}

/** The source of what the trade does and nobody has printed: said once a page, and not at every line. */
const PRACTICE = 'common practice, no source';
export const SAID_ONCE = 'Where no source is named it is common practice.';

/** The source to name beside a line; empty for common practice. */
export function sourceOf(source: string): string {
	return source === PRACTICE ? '' : source;
}

/** A word at the head of a line. */
export function asTitle(text: string): string {
	return text.charAt(0).toUpperCase() + text.slice(1);
}

const format = (options: Intl.DateTimeFormatOptions) => {
	const made = new Intl.DateTimeFormat('en-GB', options);
	return (moment: string | Date) => made.format(typeof moment === 'string' ? new Date(moment) : moment);
};

/** 14:33 */
export const clock = format({ hour: '2-digit', minute: '2-digit' });
/** 25 Nov, 14:33 */
export const moment = format({ day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
/** 25 Nov 2026 */
export const date = format({ day: 'numeric', month: 'short', year: 'numeric' });
/** Wednesday, 25 November 2026 */
export const day = format({ weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' });
