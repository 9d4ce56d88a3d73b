/** The pieces of the screens, each alone: what they say, in which units, and what touching them does. */
import { flushSync, mount, unmount, type Component } from 'svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { session } from '../session.svelte';
import { UnitTable } from '../units';
import { SYSTEMS } from '../test-units';
import CurveChart from './CurveChart.svelte';
import EnergyChain from './EnergyChain.svelte';
import Finding from './Finding.svelte';
import Formula from './Formula.svelte';
import Limits from './Limits.svelte';
import Mark from './Mark.svelte';
import Num from './Num.svelte';
import ReadingCell from './ReadingCell.svelte';
import Stages from './Stages.svelte';
import Strip from './Strip.svelte';
import WorkingSheet from './WorkingSheet.svelte';

const unit = (symbol: string, factor: number) => ({ symbol, factor, offset: 0, aliases: [], decimals: 2 });
const dimension = (id: string, si: string, units: ReturnType<typeof unit>[], digits = 3) => ({
	id,
	si,
	digits,
	coarse: '',
	units
});

const shown: Record<string, unknown>[] = [];

beforeEach(() => {
	session.units = new UnitTable(
		[
			dimension('pressure', 'bar', [unit('Pa', 1), unit('bar', 1e5), unit('psi', 6894.757)]),
			dimension('current', 'A', [unit('A', 1)]),
			dimension('energy', 'kWh', [unit('J', 1), unit('kWh', 3.6e6)]),
			dimension('flow', 'L/s', [unit('m³/s', 1), unit('L/s', 1e-3), unit('gpm', 6.30902e-5)]),
			dimension('head', 'm', [unit('m', 1), unit('ft', 0.3048)]),
			dimension('power', 'kW', [unit('W', 1), unit('kW', 1e3), unit('hp', 745.7)]),
			dimension('frequency', 'Hz', [unit('Hz', 1)])
		],
		SYSTEMS
	);
	session.system = 'si';
	session.working = null;
});
afterEach(() => {
	while (shown.length) void unmount(shown.pop() as Record<string, unknown>);
	document.body.innerHTML = '';
});

/** The component on an empty page; its element. */
function put<P extends Record<string, unknown>>(component: Component<P>, props: P): HTMLElement {
	shown.push(mount(component, { target: document.body, props }) as Record<string, unknown>);
	flushSync();
	return document.body;
}

const figure = (value: number, dimensionId: string | null, more: object = {}): Schemas['FigureView'] => ({
	key: 'k',
	value,
	dimension: dimensionId,
	assumed: false,
	...more
});

const finding: Schemas['FindingView'] = {
	id: 'f',
	place: 'motor',
	severity: 'stop',
	title: 'Amps of the other voltage',
	because: [
		{ figure: figure(18.9, 'current', { key: 'amps' }), text: null },
		{ text: ' is too much.', figure: null }
	],
	do: [{ text: 'Read it again.', figure: null }],
	source: 'follows from the definitions',
	source_kind: 'derived',
	needs: [],
	answers: [
		{ path: 'motor.rated_current', label: 'Rated current' },
		{ path: 'settings.limits.current', label: 'Current limit in the drive' }
	],
	meant: '',
	fix: { field: 'motor.rated_current', value: 10.8, label: [{ text: '10.8 A?', figure: null }] },
	doubts: 'motor.rated_current',
	upheld: ''
};

describe('a number', () => {
	it('speaks in the units of the reader, and follows when they change', () => {
		const at = put(Num, { figure: figure(4e5, 'pressure') });
		expect(at.textContent).toBe('4bar');
		session.setUnits('us');
		flushSync();
		expect(at.textContent).toBe('58psi');
	});

	it('opens its working when touched, and is no button where nothing opens', () => {
		const open = vi.fn();
		const at = put(Num, { figure: figure(1, 'current', { key: 'line.amps' }), open });
		at.querySelector('button')?.click();
		expect(open).toHaveBeenCalledWith('line.amps');
		document.body.innerHTML = '';
		expect(put(Num, { figure: figure(1, 'current') }).querySelector('button')).toBeNull();
	});

	it('marks what rests on an assumption', () => {
		expect(put(Num, { figure: figure(1, 'current', { assumed: true }) }).textContent).toBe('1A*');
	});
});

describe('severity', () => {
	it.each([
		['stop', 'rect'],
		['caution', 'path'],
		['clear', 'circle']
	])('%s has a shape of its own before its colour', (severity, shape) => {
		const at = put(Mark, { severity, named: true });
		expect(at.querySelector(shape)).not.toBeNull();
		expect(at.querySelector('svg')?.getAttribute('aria-label')).toBe(severity);
	});

	it('not known is a dashed ring', () => {
		expect(put(Mark, { severity: 'unknown' }).querySelector('[stroke-dasharray]')).not.toBeNull();
	});
});

describe('a finding', () => {
	it('says its severity as a word, the numbers, what to do and on whose authority', () => {
		const text = put(Finding, { finding, open: () => {} }).textContent;
		expect(text).toContain('Stop: amps of the other voltage');
		expect(text).toContain('18.9A is too much.');
		expect(text).toContain('Read it again.');
		expect(text).toContain('follows from the definitions');
	});

	it('offers its correction at one touch', () => {
		const apply = vi.fn();
		const at = put(Finding, { finding, open: () => {}, apply });
		[...at.querySelectorAll('button')].find((b) => b.textContent === '10.8 A?')?.click();
		expect(apply).toHaveBeenCalledWith(finding.fix);
	});
});

describe('a formula', () => {
	it('sets its indices low', () => {
		const at = put(Formula, { text: '(n_s - n) / n_s' });
		expect(at.querySelectorAll('sub')).toHaveLength(2);
		expect(at.textContent).toBe('(ns - n) / ns');
	});
});

const working = (more: Partial<Schemas['WorkingView']>): Schemas['WorkingView'] => ({
	title: 'Line current',
	symbol: 'I',
	value: 10.8,
	dimension: 'current',
	number: 1,
	again: false,
	formula: 'P / V',
	substituted: [
		{ value: 5500, dimension: 'power', unit: 'W' },
		{ text: ' / ', value: 0, dimension: null, unit: '' },
		{ value: 400, dimension: 'voltage', unit: 'V' }
	],
	source: 'a handbook',
	source_kind: 'handbook',
	method_id: 'line_current',
	provenance: '',
	field: '',
	why: '',
	inputs: [],
	assumptions: [],
	...more
});

describe('a calculation sheet', () => {
	it('reads symbol, formula, numbers, result, source', () => {
		const text = put(WorkingSheet, { working: working({}) }).textContent;
		for (const piece of ['Line current', 'P / V', '5500 W / 400', '10.8 A', 'a handbook'])
			expect(text).toContain(piece);
	});

	it('shows the steps beneath, where values were read, and what was assumed', () => {
		const leaf = working({
			method_id: '',
			number: 0,
			provenance: 'plate',
			title: 'Power',
			value: 5500,
			dimension: 'power'
		});
		const beneath = working({ title: 'Volts at the motor', source: 'a law' });
		const text = put(WorkingSheet, {
			working: working({
				inputs: [
					{ symbol: 'P', name: 'power', value: 5500, dimension: 'power', step: leaf, steps: [] },
					{ symbol: 'V', name: 'voltage', value: 400, dimension: null, step: beneath, steps: [] },
					{ symbol: '', name: 'levels', value: [1, 2], dimension: 'current', step: null, steps: [beneath] }
				],
				assumptions: ['sensor height: taken as level']
			})
		}).textContent;
		expect(text).toContain('5.5 kW');
		expect(text).toContain('plate');
		expect(text).toContain('Volts at the motor');
		expect(text).toContain('volts at the motor'); // the member of the sequence, folded
		expect(text).toContain('Assumed. sensor height: taken as level');
	});

	it('works a step once, and where it is used again leads back to it, unfolding it', () => {
		const member = working({ number: 2, title: 'Volts at the motor' });
		const sheet = put(WorkingSheet, {
			working: working({
				inputs: [
					{ symbol: '', name: 'levels', value: [1], dimension: 'current', step: null, steps: [member] },
					{
						symbol: 'V',
						name: 'voltage',
						value: 400,
						dimension: null,
						step: { ...member, again: true },
						steps: []
					}
				]
			})
		});
		const folded = sheet.querySelector('details');
		expect(folded?.open).toBe(false);
		const back = [...sheet.querySelectorAll('button')].find((b) => b.textContent === '2');
		Element.prototype.scrollIntoView = () => {};
		back?.click();
		expect(folded?.open).toBe(true);
		expect(document.activeElement?.getAttribute('data-step')).toBe('2');
	});
});

describe('the stages', () => {
	const stages = [
		{ id: 'survey', label: 'Survey', state: 'done' },
		{ id: 'run', label: 'Run sheet', state: 'now' }
	];
	it('link to their pages and say which is open', () => {
		const at = put(Stages, { stages, href: (id: string) => `/line/1/${id}`, current: 'run' });
		expect([...at.querySelectorAll('a')].map((a) => a.getAttribute('href'))).toEqual([
			'/line/1/survey',
			'/line/1/run'
		]);
		expect(at.querySelector('[aria-current]')?.textContent).toBe('Run sheet');
	});
	it('are told in words where they are only drawn', () => {
		const bar = put(Stages, { stages }).querySelector('[role=img]');
		expect(bar?.getAttribute('aria-label')).toBe('Survey done, Run sheet now');
	});
});

describe('the line strip', () => {
	const ids = ['supply', 'drive', 'motor', 'machine', 'system', 'sensor'];
	const strip: Schemas['StripView'] = {
		stations: ids.map((id) => ({
			id,
			label: id,
			key: [{ figure: figure(10.9, 'current'), text: null }],
			second: [{ text: 'second', figure: null }],
			severity: id === 'motor' ? 'stop' : 'clear'
		})),
		joints: [
			'supply-drive',
			'drive-motor',
			'motor-machine',
			'machine-system',
			'system-sensor',
			'sensor-drive'
		].map((id) => ({ id, severity: 'clear' })),
		back: [{ text: 'pressure falls → faster', figure: null }]
	};
	it('has six stations, six joints, and the way back in words', () => {
		const select = vi.fn();
		const at = put(Strip, { strip, selected: 'motor', select });
		expect(at.querySelectorAll('.station')).toHaveLength(6);
		expect(at.querySelectorAll('.joint')).toHaveLength(6);
		expect(at.querySelector('[aria-pressed=true]')?.textContent).toContain('motor');
		expect(at.textContent).toContain('pressure falls → faster');
		at.querySelectorAll<HTMLButtonElement>('.joint')[1]?.click();
		expect(select).toHaveBeenCalledWith('drive-motor');
	});
});

describe('a reading', () => {
	const reading = {
		id: 'current',
		label: 'Current',
		dimension: 'current',
		expected: null,
		low: null,
		high: null,
		tolerance: 0.1,
		least: 0,
		band: null,
		span: null,
		optional: false,
		twice: false,
		read: null,
		read_by: ''
	};
	it.each([
		['10.5', 'clear', '+5.0 %'],
		['12', 'caution', '20 % high'],
		['8,5', 'caution', '15 % low']
	])('%s against 10 A is %s', (text, severity, deviation) => {
		const at = put(ReadingCell, {
			reading,
			expected: figure(10, 'current'),
			text,
			input: () => {},
			open: () => {},
			label: 'Current'
		});
		expect(at.querySelector('em')?.dataset['severity']).toBe(severity);
		expect(at.querySelector('em')?.textContent).toContain(deviation);
	});
	it('is told what is typed and refuses what is no number', () => {
		const input = vi.fn();
		const at = put(ReadingCell, { reading, text: 'much', input, open: () => {}, label: 'Current' });
		const field = at.querySelector('input') as HTMLInputElement;
		expect(field.getAttribute('aria-invalid')).toBe('true');
		field.value = '11';
		field.dispatchEvent(new InputEvent('input', { bubbles: true }));
		expect(input).toHaveBeenCalledWith('11');
	});
});

describe('a doubted plate value', () => {
	const button = (at: HTMLElement, words: string) =>
		[...at.querySelectorAll('button')].find((b) => b.textContent === words);

	it('is upheld with a reason only', () => {
		const uphold = vi.fn();
		const at = put(Finding, { finding, open: vi.fn(), uphold });
		button(at, 'This is what the plate says')?.click();
		flushSync();
		button(at, 'Keep it so')?.click();
		expect(uphold).not.toHaveBeenCalled();
		const why = at.querySelector('input') as HTMLInputElement;
		why.value = 'read twice';
		why.dispatchEvent(new Event('input', { bubbles: true }));
		button(at, 'Keep it so')?.click();
		expect(uphold).toHaveBeenCalledWith('motor.rated_current', 'read twice');
	});

	it('can be doubted again', () => {
		const uphold = vi.fn();
		const at = put(Finding, { finding: { ...finding, upheld: 'read twice' }, open: vi.fn(), uphold });
		button(at, 'Doubt it again')?.click();
		expect(uphold).toHaveBeenCalledWith('motor.rated_current', '');
	});

	it('that is meant so stays for a reason', () => {
		const uphold = vi.fn();
		const meant = { ...finding, doubts: '', meant: 'drive.duty' };
		const at = put(Finding, { finding: meant, open: vi.fn(), uphold });
		button(at, 'It stays so, with a reason')?.click();
		flushSync();
		const why = at.querySelector('input') as HTMLInputElement;
		why.value = 'two spare pumps to come';
		why.dispatchEvent(new Event('input', { bubbles: true }));
		button(at, 'Keep it so')?.click();
		expect(uphold).toHaveBeenCalledWith('drive.duty', 'two spare pumps to come');
	});

	it('leads to the entries and the settings that answer it', () => {
		const go = vi.fn();
		const at = put(Finding, { finding, open: vi.fn(), go, sheet: '/line/7/settings' });
		button(at, 'rated current')?.click();
		expect(go).toHaveBeenCalledWith('motor.rated_current');
		expect(at.querySelector('.answers a')?.getAttribute('href')).toBe('/line/7/settings#limits.current');
	});

	it('offers nothing where no plate value is doubted', () => {
		const at = put(Finding, { finding: { ...finding, doubts: '' }, open: vi.fn(), uphold: vi.fn() });
		expect(button(at, 'This is what the plate says')).toBeUndefined();
	});
});

describe('limits', () => {
	it('put the reason that rules first, each with its own figure', () => {
		const reason = (words: string, value: number, rules: boolean) => ({
			words,
			figure: figure(value, 'frequency'),
			source: 's',
			rules
		});
		const at = put(Limits, {
			limits: [
				{
					id: 'lowest',
					setting: 'limits.minimum_speed',
					in_force: null,
					why: '',
					label: 'Lowest speed',
					reasons: [reason('practice', 15, false), reason('holds', 42, true)],
					missing: ''
				},
				{
					id: 'up',
					setting: 'ramps.up',
					in_force: null,
					why: '',
					label: 'Ramp up',
					reasons: [],
					missing: 'not known yet: needs power'
				}
			],
			open: vi.fn()
		});
		expect([...at.querySelectorAll('p')].map((p) => p.textContent?.replace(/\s+/g, ' ').trim())).toEqual([
			'42Hz holds',
			'15Hz practice',
			'not known yet: needs power'
		]);
	});
});

describe('charts', () => {
	const curve = (scale: number) => ({
		label_frequency: 50 * scale,
		flows: [0, 0.01, 0.02],
		rises: [50 * scale, 45 * scale, 30 * scale]
	});
	const curves: Schemas['CurvesView'] = {
		machine: [curve(1), curve(0.8)],
		system: { label_frequency: null, flows: [0, 0.01, 0.02], rises: [10, 20, 50] },
		held: figure(35, 'head'),
		duty_flow: figure(0.015, 'flow'),
		duty_rise: figure(38, 'head'),
		duty_power: figure(5000, 'power'),
		regions: [
			{
				id: 'hold',
				flows: [0, 0, 0.01, 0],
				rises: [0, 24, 0, 0],
				words: [
					{ text: 'below ', figure: null },
					{ figure: figure(35, 'frequency'), text: null },
					{ text: ' no water moves', figure: null }
				]
			}
		],
		flow_dimension: 'flow',
		rise_dimension: 'head',
		rise_name: 'head',
		assumed: false,
		missing: ''
	};
	it('name duty point, held head and the forbidden region in the units chosen', () => {
		const at = put(CurveChart, { curves });
		for (const words of ['15 L/s, 5 kW', '35 m held', 'below 35Hz no water moves', '50 Hz', '40 Hz'])
			expect(at.textContent).toContain(words);
		session.setUnits('us');
		flushSync();
		expect(at.textContent).toContain('238 gpm, 6.71 hp');
	});

	it('shade every region that is told and mark it with its letter', () => {
		const at = put(CurveChart, { curves });
		expect(at.querySelectorAll('[data-region]')).toHaveLength(1);
		expect(at.querySelector('li b')?.textContent).toBe('a');
	});

	it('move the point by arrow keys, in SI, and stay on the axes', () => {
		const drag = vi.fn();
		const at = put(CurveChart, { curves, drag });
		const handle = at.querySelector('[role="slider"]');
		handle?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }));
		expect(drag.mock.calls[0]?.[0].flow).toBeGreaterThan(0.015);
		expect(drag.mock.calls[0]?.[0].rise).toBeCloseTo(38, 5);
		handle?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', shiftKey: true, bubbles: true }));
		expect(drag.mock.calls[1]?.[0].rise).toBeLessThan(38);
		handle?.dispatchEvent(new KeyboardEvent('keydown', { key: 'x', bubbles: true }));
		expect(drag).toHaveBeenCalledTimes(2);
	});

	it('have no handle where nothing may be dragged', () => {
		expect(put(CurveChart, { curves }).querySelector('[role="slider"]')).toBeNull();
	});
});

describe('the energy chain', () => {
	it('names every loss and what is useful', () => {
		const open = vi.fn();
		const chain = {
			id: 'now',
			name: 'Slowed',
			taken: figure(3.6e9, 'energy'),
			losses: [{ name: 'drive', energy: figure(3.6e8, 'energy', { key: 'loss' }) }],
			useful: figure(3.24e9, 'energy'),
			throttled: figure(0, 'energy'),
			efficiency: figure(0.6, 'percent')
		};
		const at = put(EnergyChain, { chain, most: 3.6e9, open });
		for (const words of ['Slowed', '1000kWh', 'drive', '−100', 'useful', '900'])
			expect(at.textContent).toContain(words);
		[...at.querySelectorAll('button')].find((b) => b.textContent === '100')?.click();
		expect(open).toHaveBeenCalledWith('loss');
	});
});
