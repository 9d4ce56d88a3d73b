import { expect, test } from 'vitest';
import { inSentence } from './words';

test.each([
	['Line volts', 'line volts'],
	['L1 to L2', 'L1 to L2'],
	['DC bus', 'DC bus'],
	['A soft start', 'a soft start'],
	['', '']
])('“%s” inside a sentence', (label, said) => {
	expect(inSentence(label)).toBe(said);
});
