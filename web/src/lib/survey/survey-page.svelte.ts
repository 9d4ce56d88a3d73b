/** What the survey asks at the selected station, and what is found there. */
import type { Schemas } from '../api/client';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';

type Field = Schemas['FieldView'];

const ORDER = ['supply', 'drive', 'motor', 'machine', 'system', 'sensor'];
export const NAMES: Record<string, string> = {
	supply: 'Supply',
	drive: 'Drive plate',
	motor: 'Motor plate',
	machine: 'Pump or fan',
	system: 'System',
	sensor: 'Sensor and setpoint'
};
/** The figure that matters at a station, by key and by what it is called; its working is one touch away. */
const FIGURES: Record<string, [string, string]> = {
	supply: ['', 'unbalance of the volts'],
	drive: ['drive_amps', 'amps the drive gives here'],
	motor: ['slip', 'slip at full load'],
	machine: ['duty_power', 'shaft power at duty'],
	system: ['setpoint_head', 'head that holds the setpoint'],
	sensor: ['hold_frequency', 'frequency that holds at no demand']
};

export class SurveyPage {
	/** Stations at which the fields on demand are shown. */
	private onDemand = $state<Record<string, boolean>>({});
	/** Which of the findings here is in hand; -1 for none. */
	finding = $state(-1);

	/** A joint is entered at the station after it. */
	readonly station = $derived.by(() => {
		const { selected } = this.line;
		return selected.includes('-') ? (selected.split('-')[0] ?? 'supply') : selected;
	});
	readonly group = $derived(session.groups.find((g) => g.id === this.station));
	readonly name = $derived.by(() => {
		const traits = this.line.assessment?.traits ?? [];
		if (this.station === 'machine' && traits.includes('fan')) return 'Fan';
		if (this.station === 'machine' && traits.includes('pump')) return 'Pump';
		return NAMES[this.station] ?? '';
	});
	/** The station after this one. */
	readonly following = $derived(ORDER[ORDER.indexOf(this.station) + 1]);

	/** The supply's bench also holds what the line is for, the sensor's what is wanted of the loop. */
	private readonly asked = $derived.by<Field[]>(() => {
		const of = (id: string): Field[] => session.groups.find((g) => g.id === id)?.fields ?? [];
		const fields = [
			...(this.station === 'supply' ? of('line').map((f) => ({ ...f, tab: 'Line' })) : []),
			...of(this.station),
			...(this.station === 'sensor' ? of('control') : [])
		];
		return fields.filter((f) => this.line.asks(f));
	});
	readonly needed = $derived(this.asked.filter((f) => !f.more));
	readonly extra = $derived(this.asked.filter((f) => f.more));
	readonly read = $derived(this.needed.filter((f) => this.line.entry(f.path) !== undefined).length);
	readonly readMore = $derived(this.extra.filter((f) => this.line.entry(f.path) !== undefined).length);
	readonly showMore = $derived(this.onDemand[this.station] ?? false);
	readonly sections = $derived.by(() => {
		const shown = this.showMore ? this.extra : this.needed;
		return unique(shown.map((f) => f.tab)).map((tab) => ({
			tab,
			fields: shown.filter((f) => f.tab === tab)
		}));
	});

	private readonly findings = $derived.by(() => this.line.assessment?.findings ?? []);
	readonly here = $derived.by(() => {
		const { selected } = this.line;
		return this.findings.filter((f) =>
			selected.includes('-') ? f.place === selected : f.place.split('-').includes(this.station)
		);
	});
	readonly counts = $derived(
		(['stop', 'caution', 'unknown'] as const)
			.map((s) => [this.here.filter((f) => f.severity === s).length, s] as const)
			.filter(([n]) => n > 0)
	);
	readonly elsewhere = $derived(this.findings.filter((f) => f.severity === 'stop' && !this.here.includes(f)));
	/** The fields that the findings here wait for, three of them. */
	readonly next = $derived(
		unique(this.here.flatMap((f) => f.needs))
			.map((path) => this.asked.find((f) => f.path === path))
			.filter((f) => f !== undefined)
			.slice(0, 3)
	);
	readonly sheetName = $derived(FIGURES[this.station]?.[1] ?? '');
	/** Key of the figure that matters at the station, once it is known. */
	readonly sheetKey = $derived.by(() => {
		if (this.station !== 'supply')
			return this.line.assessment?.figures[FIGURES[this.station]?.[0] ?? '']?.key;
		const balance = this.findings.find((f) => f.id === 'supply_is_balanced');
		return balance?.because.find((part) => part.figure)?.figure?.key;
	});

	constructor(readonly line: LinePage) {}

	show(more: boolean): void {
		this.onDemand = { ...this.onDemand, [this.station]: more };
	}

	/** To the next station, at what is asked first there. */
	walkOn(): void {
		if (!this.following) return;
		this.line.selected = this.following;
		this.show(false);
	}

	/** To the station, and the tab, at which a field of the record is asked. */
	showField(path: string): void {
		const [group = ''] = path.split('.');
		const station = { line: 'supply', control: 'sensor' }[group] ?? group;
		if (station !== this.station) this.line.selected = station;
		this.show(this.extra.some((f) => f.path === path));
	}

	/** To the finding before or after. */
	step(by: 1 | -1): void {
		this.finding = Math.max(0, Math.min(this.here.length - 1, this.finding + by));
	}
}

function unique(of: string[]): string[] {
	return of.filter((one, i) => of.indexOf(one) === i);
}
