import { describe, expect, it } from 'vitest';
import { significant, UnitTable, words } from './units';
import { SYSTEMS } from './test-units';

const table = new UnitTable(
	[
		{
			id: 'power',
			si: 'kW',
			digits: 3,
			coarse: '',
			units: [
				{ symbol: 'W', factor: 1, offset: 0, aliases: [], decimals: 2 },
				{ symbol: 'kW', factor: 1000, offset: 0, aliases: [], decimals: 2 },
				{ symbol: 'hp', factor: 745.6998715822702, offset: 0, aliases: [], decimals: 2 }
			]
		},
		{
			id: 'temperature',
			si: '°C',
			digits: 4,
			coarse: '',
			units: [
				{ symbol: '°C', factor: 1, offset: 0, aliases: [], decimals: 2 },
				{ symbol: '°F', factor: 5 / 9, offset: -160 / 9, aliases: [], decimals: 2 }
			]
		},
		{
			id: 'time',
			si: 's',
			digits: 4,
			coarse: 'min',
			units: [
				{ symbol: 's', factor: 1, offset: 0, aliases: [], decimals: 2 },
				{ symbol: 'min', factor: 60, offset: 0, aliases: [], decimals: 1 }
			]
		}
	],
	SYSTEMS
);

describe('reading what was typed', () => {
	it.each([
		['5.5', 'si', 5500],
		['5,5', 'si', 5500],
		['5.5 kW', 'us', 5500],
		['7.5 hp', 'si', 5592.749],
		['7.5HP', 'si', 5592.749],
		['5 500 W', 'si', 5500],
		['1,234.5 W', 'si', 1234.5],
		['.5', 'si', 500]
	] as const)('%s in %s is %f W', (text, system, watts) => {
		expect(table.parse(text, 'power', system)).toBeCloseTo(watts, 2);
	});

	it('knows an offset: 104 °F is 40 °C', () => {
		expect(table.parse('104 °F', 'temperature', 'si')).toBeCloseTo(40, 9);
	});

	it.each(['', 'abc', '5.5 bar', '--3', '5 5', '1 80 W', '12 5.5'])('refuses %s in words', (text) => {
		expect(typeof table.parse(text, 'power', 'si')).toBe('string');
	});

	it.each([
		['1,800', 'us', 1800 * 745.7, '1.800'],
		['1,800', 'si', 1800, '1800'],
		['1,800 kW', 'si', 1800, '1800 kW']
	] as const)('reads %s in %s as %f W and offers the other reading', (text, system, watts, other) => {
		expect(table.parse(text, 'power', system)).toBeCloseTo(watts, -3);
		expect(table.otherReading(text, 'power', system)).toBe(other);
	});

	it('asks nothing where a number reads one way', () => {
		for (const text of ['0,745', '1800', '1,80', '1,234.5', '1,234,567'])
			expect(table.otherReading(text, 'power', 'si')).toBeUndefined();
	});

	it('names the unit that was typed', () => {
		expect(table.typedUnit('7.5 hp', 'power')).toBe('hp');
		expect(table.typedUnit('7.5', 'power')).toBeUndefined();
	});
});

describe('showing', () => {
	it.each([
		[0.00012345, 3, '0.000123'],
		[5.5, 3, '5.5'],
		[1445, 4, '1445'],
		[75536.3, 4, '75\u202f536'],
		[-439.4, 3, '−439'],
		[0, 3, '0'],
		[-1e-13, 3, '0'],
		[Number.NaN, 3, '–'],
		[1234567, 3, '1\u202f234\u202f567']
	])('%f to %i figures is %s', (value, digits, text) => {
		expect(significant(value, digits)).toBe(text);
	});

	it.each([
		[5236.4, 'kW', '5.24 kW'],
		[127_345, 'kW', '127 kW'],
		[34.6, 'kW', '0.035 kW']
	] as const)('has no more decimals than are held, and two figures at least: %f', (watts, unit, text) => {
		expect(table.show(watts, 'power', 'si', unit)).toBe(text);
	});

	it.each([
		[600, '10 min'],
		[150, '2.5 min'],
		[200, '200 s'],
		[90, '90 s']
	])('reads %i s as %s', (seconds, text) => {
		expect(table.show(seconds, 'time', 'si')).toBe(text);
	});

	it('tells plain text of the server in one unit system', () => {
		expect(words('keep ⟨300 mm|12 in⟩ apart, ⟨3 m|9.8 ft⟩ off', 1)).toBe('keep 12 in apart, 9.8 ft off');
		expect(words('keep ⟨300 mm|12 in⟩ apart', 0)).toBe('keep 300 mm apart');
		expect(words('keep ⟨300 mm|12 in⟩ apart, ⟨1 L|2 gal|3 igal⟩', 2)).toBe('keep 300 mm apart, 3 igal');
	});

	it('shows in the system asked for', () => {
		expect(table.show(5500, 'power', 'si')).toBe('5.5 kW');
		expect(table.show(5500, 'power', 'us')).toBe('7.38 hp');
	});
});
