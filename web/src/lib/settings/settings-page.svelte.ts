/** The settings sheet: what is typed as found and as left, and what was kept of it. */
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import { Again } from '../api/reading.svelte';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';

type Row = Schemas['SettingView'];
type Moment = 'found' | 'decided' | 'left';
/** What is known of a row that a value is kept for. */
type Put = Pick<Row, 'id' | 'label' | 'dimension' | 'decided'> & Partial<Row>;

/** Groups as a technician thinks of them, in the order in which a drive is set. */
export const GROUPS: Record<string, string> = {
	region: 'Region and reset',
	reset: 'Region and reset',
	application: 'Application',
	motor: 'Motor',
	limits: 'Limits',
	ramps: 'Ramps, start and stop',
	start: 'Ramps, start and stop',
	stop: 'Ramps, start and stop',
	reference: 'Reference and feedback',
	feedback: 'Reference and feedback',
	pid: 'Controller',
	sleep: 'Rest at no demand',
	level: 'Levels',
	cascade: 'Several drives, link',
	bus: 'Several drives, link',
	protection: 'Protection and restart',
	retry: 'Protection and restart',
	io: 'Relays, carrier, display',
	carrier: 'Relays, carrier, display',
	display: 'Relays, carrier, display',
	access: 'Who may change it',
	own: 'Other parameters of this drive'
};

export interface Group {
	name: string;
	rows: Row[];
	/** "4 of 9", or what is wrong in it. */
	says: string;
	severity: string;
}

export class SettingsPage {
	sheet = $state.raw<Schemas['SheetView'] | null>(null);
	problem = $state('');
	/** Only rows that are open, or do something. */
	onlyOpen = $state(false);
	/** Only what is otherwise from drive to drive of a set. */
	onlyEach = $state(false);
	/** Id of the setting that is being decided. */
	deciding = $state('');
	asking = $state(false);
	private typed = $state<Record<string, string>>({});

	constructor(
		readonly line: LinePage,
		deciding = ''
	) {
		this.deciding = deciding;
	}

	private get params(): { path: { line_id: string } } {
		return { path: { line_id: this.line.id } };
	}

	/** Its reads come again while nobody answers; who leaves the page stops them. */
	readonly again = new Again();

	async load(): Promise<void> {
		const turn = this.again.begin();
		try {
			await this.read();
			this.problem = '';
			this.again.answered();
		} catch (error) {
			this.problem = (error as Error).message;
			this.again.failed(turn, error, () => this.load());
		}
	}

	private async read(): Promise<void> {
		this.sheet = await answer(api.GET('/api/lines/{line_id}/settings', { params: this.params }));
	}

	/** The rows by group, with how far each has come. */
	get groups(): Group[] {
		const found: Group[] = [];
		for (const row of this.sheet?.rows ?? []) {
			const name = GROUPS[row.group] ?? row.group;
			let group = found.find((g) => g.name === name);
			if (!group) found.push((group = { name, rows: [], says: '', severity: '' }));
			group.rows.push(row);
		}
		for (const group of found) {
			const worst = (severity: string) => group.rows.filter((r) => r.effect?.severity === severity).length;
			const [stops, cautions] = [worst('stop'), worst('caution')];
			const read = group.rows.filter((r) => r.left !== null && !r.taken).length;
			const here = group.rows.filter((r) => r.verdict !== 'absent').length;
			group.severity = stops ? 'stop' : cautions ? 'caution' : '';
			group.says = stops
				? `${stops} stop${stops > 1 ? 's' : ''}`
				: cautions
					? `${cautions} caution${cautions > 1 ? 's' : ''}`
					: `${read}/${here}`;
			if (this.onlyOpen) group.rows = group.rows.filter((r) => !quiet(r));
			if (this.onlyEach) group.rows = group.rows.filter((r) => r.each.length);
		}
		return found.filter((g) => g.rows.length);
	}

	/** How far it has come, and whose labels it bears. */
	get says(): string {
		const { sheet } = this;
		if (!sheet) return '';
		const unread = sheet.set_count - sheet.read_count;
		return [
			`${sheet.read_count} of ${sheet.rows.length - sheet.absent_count} read back`,
			unread > 0 ? `, ${unread} taken and not read back` : '',
			`. Labels of the ${sheet.family_name} family`,
			sheet.absent_count ? `, which has no parameter for ${sheet.absent_count}` : ''
		].join('');
	}

	/** Whether something is otherwise from drive to drive. */
	get differsPerDrive(): boolean {
		return (this.sheet?.rows ?? []).some((r) => r.each.length > 0);
	}

	/** What stands in a field: as typed, or as kept in the reader's units. */
	text(row: Row, moment: Moment): string {
		const value = row[moment];
		const typed = this.typed[`${row.id}.${moment}`];
		if (typed !== undefined) return typed;
		if (value === null) return '';
		return typeof value === 'number' && row.dimension
			? session.units.number(value, row.dimension, session.system, undefined, 5)
			: String(value);
	}

	type(row: Row, moment: Moment, text: string): void {
		this.typed[`${row.id}.${moment}`] = text;
	}

	/** Keep a value; an empty text takes it away. What could not be read or kept stays as it was typed. */
	async put(row: Put, moment: Moment, text: string, why = ''): Promise<boolean> {
		let value: number | string | null = text.trim() || null;
		if (value !== null && row.dimension) {
			const read = session.units.parse(text, row.dimension, session.system);
			if (typeof read === 'string') {
				this.problem = `${row.label}: ${read}`;
				return false;
			}
			value = read;
		}
		try {
			this.sheet = await answer(
				api.PUT('/api/lines/{line_id}/settings/{setting}/{moment}', {
					params: { path: { line_id: this.line.id, setting: row.id, moment } },
					body: { value, seen: row[moment] ?? null, why, by: session.by }
				})
			);
			this.problem = '';
			delete this.typed[`${row.id}.${moment}`];
			await this.line.refresh();
			return true;
		} catch (error) {
			this.problem = `${row.label}: ${(error as Error).message}`;
			if (error instanceof ApiProblem && error.status === 409) await this.read(); // to see what the other entered
			return false;
		}
	}

	/** Decide a parameter that no row stands for yet, under the label that it bears in the drive. */
	async addOwn(label: string, value: string, why: string): Promise<boolean> {
		const id = `own.${label.trim().replace(/\s+/g, ' ')}`;
		const row = this.sheet?.rows.find((r) => r.id === id);
		return this.put(row ?? { id, label, dimension: null, decided: null }, 'decided', value, why);
	}

	/** Enter what is to be set as left: for a row that differs from it. */
	async take(row: Row): Promise<void> {
		const wanted = row.decided ?? row.planned?.value ?? row.planned_choice;
		if (wanted === null || wanted === undefined) return;
		const text =
			typeof wanted === 'number' && row.dimension
				? `${session.units.number(wanted, row.dimension, session.system, undefined, 5)}`
				: String(wanted);
		await this.put(row, 'left', text);
	}

	async takePlan(): Promise<void> {
		this.asking = false;
		try {
			this.sheet = await answer(
				api.POST('/api/lines/{line_id}/settings/take-plan', {
					params: this.params,
					body: { by: session.by }
				})
			);
			await this.line.refresh();
		} catch (error) {
			this.problem = (error as Error).message;
		}
	}
}

/** Whether nothing is to be done or known about a row: as wanted and read back, or not in this drive. */
export function quiet(row: Row): boolean {
	if (row.verdict === 'absent') return true;
	return (
		(row.verdict === 'same' || row.verdict === 'decided') && (row.effect?.severity ?? 'clear') === 'clear'
	);
}
