/** What the survey asks and finds, by the station that is selected. */
import { beforeEach, expect, it } from 'vitest';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';
import { SurveyPage } from './survey-page.svelte';

const field = (path: string, tab: string, more = false) => ({
	path,
	name: path.split('.')[1],
	label: path,
	tab,
	more,
	when: []
});
const finding = (id: string, place: string, severity: string, needs: string[] = []) => ({
	id,
	place,
	severity,
	needs,
	because: []
});

function survey(selected: string, entries: string[] = [], traits: string[] = []): SurveyPage {
	return new SurveyPage({
		selected,
		asks: (f: { path: string }) => f.path !== 'motor.magnet_poles',
		entry: (path: string) => (entries.includes(path) ? { value: 1 } : undefined),
		assessment: {
			traits,
			figures: { slip: { key: 'line.slip' } },
			findings: [
				finding('a', 'motor', 'stop'),
				finding('b', 'drive-motor', 'unknown', ['motor.power', 'motor.amps', 'drive.amps']),
				finding('c', 'system', 'stop'),
				finding('d', 'supply-drive', 'caution')
			]
		}
	} as unknown as LinePage);
}

beforeEach(() => {
	session.groups = [
		{ id: 'line', fields: [field('line.application', 'Use')] },
		{ id: 'supply', fields: [field('supply.voltage', 'Supply')] },
		{
			id: 'motor',
			fields: [
				field('motor.power', 'Plate'),
				field('motor.amps', 'Plate'),
				field('motor.ambient', 'Air', true),
				field('motor.magnet_poles', 'Five')
			]
		},
		{ id: 'control', fields: [field('control.setpoint', 'Wanted')] },
		{ id: 'sensor', fields: [field('sensor.range', 'Label')] }
	] as never;
});

it('turns to the station and the tab of a field that answers a finding', () => {
	const at = survey('motor');
	at.showField('motor.ambient');
	expect(at.showMore).toBe(true);
	at.showField('motor.power');
	expect(at.showMore).toBe(false);
	at.showField('control.setpoint');
	expect(at.line.selected).toBe('sensor');
	at.showField('line.application');
	expect(at.line.selected).toBe('supply');
});

it('asks first what is needed, on demand the rest, and never what does not apply', () => {
	const at = survey('motor', ['motor.power']);
	expect([at.read, at.needed.length, at.extra.length, at.readMore]).toEqual([1, 2, 1, 0]);
	expect(at.sections.map((s) => [s.tab, s.fields.length])).toEqual([['Plate', 2]]);
	at.show(true);
	expect(at.sections.map((s) => s.tab)).toEqual(['Air']);
});

it('asks what the line is for with the supply, and what is wanted with the sensor', () => {
	expect(survey('supply').needed.map((f) => f.path)).toEqual(['line.application', 'supply.voltage']);
	expect(survey('sensor').needed.map((f) => f.path)).toEqual(['sensor.range', 'control.setpoint']);
});

it('shows what is found at the station and its joints, and the stops elsewhere', () => {
	const at = survey('motor');
	expect(at.here.map((f) => f.id)).toEqual(['a', 'b']);
	expect(at.elsewhere.map((f) => f.id)).toEqual(['c']);
	expect(at.counts).toEqual([
		[1, 'stop'],
		[1, 'unknown']
	]);
	expect(at.next.map((f) => f.path)).toEqual(['motor.power', 'motor.amps']);
	expect(at.sheetKey).toBe('line.slip');
	const joint = survey('drive-motor');
	expect([joint.station, joint.here.map((f) => f.id)]).toEqual(['drive', ['b']]);
});

it('walks from station to station and from finding to finding', () => {
	const at = survey('motor', [], ['fan']);
	at.step(1);
	at.step(1);
	at.step(1);
	expect(at.finding).toBe(1);
	at.step(-1);
	at.step(-1);
	expect(at.finding).toBe(0);
	expect(at.following).toBe('machine');
	at.walkOn();
	expect(at.line.selected).toBe('machine');
	expect(survey('machine', [], ['fan']).name).toBe('Fan');
	expect(survey('machine').name).toBe('Pump or fan');
	expect(survey('sensor').following).toBeUndefined();
});
