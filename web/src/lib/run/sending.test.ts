import { expect, test } from 'vitest';
import { datedOf } from './sending';

const NOW = Date.parse('2026-03-02T09:00:00Z');
const ago = (ms: number, more: object = {}) => ({
	at: new Date(NOW - ms).toISOString(),
	told: false,
	...more
});

test('an entry made just now is the server’s to date', () => {
	expect(datedOf([ago(100), ago(20)], NOW)).toEqual([false, false]);
});

test('one made just now behind one that waited rests on it and keeps its own time', () => {
	expect(datedOf([ago(600_000), ago(20)], NOW)).toEqual([true, true]);
	expect(datedOf([ago(100, { tried: true }), ago(20)], NOW)).toEqual([true, true]);
	expect(datedOf([ago(20), ago(600_000)], NOW)).toEqual([false, true]);
});

test('a paper before it makes no entry late', () => {
	expect(datedOf([ago(86_400_000, { told: true }), ago(20)], NOW)).toEqual([true, false]);
});
