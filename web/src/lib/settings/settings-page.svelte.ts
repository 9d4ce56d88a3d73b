/** The settings sheet: what is typed as found and as left, and what was kept of it. */
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';

type Row = Schemas['SettingView'];
type Moment = 'found' | 'left';

export class SettingsPage {
	sheet = $state.raw<Schemas['SheetView'] | null>(null);
	problem = $state('');
	private typed = $state<Record<string, string>>({});

	constructor(readonly line: LinePage) {}

	private get params(): { path: { line_id: string } } {
		return { path: { line_id: this.line.id } };
	}

	async load(): Promise<void> {
		try {
			await this.read();
		} catch (error) {
			this.problem = (error as Error).message;
		}
	}

	private async read(): Promise<void> {
		this.sheet = await answer(api.GET('/api/lines/{line_id}/settings', { params: this.params }));
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
	async put(row: Row, moment: Moment, text: string): Promise<void> {
		let value: number | string | null = text.trim() || null;
		if (value !== null && row.dimension) {
			const read = session.units.parse(text, row.dimension, session.system);
			if (typeof read === 'string') {
				this.problem = `${row.label}: ${read}`;
				return;
			}
			value = read;
		}
		try {
			this.sheet = await answer(
				api.PUT('/api/lines/{line_id}/settings/{setting}/{moment}', {
					params: { path: { line_id: this.line.id, setting: row.id, moment } },
					body: { value, seen: row[moment], by: session.who }
				})
			);
			this.problem = '';
			delete this.typed[`${row.id}.${moment}`];
			await this.line.refresh();
		} catch (error) {
			this.problem = `${row.label}: ${(error as Error).message}`;
			if (error instanceof ApiProblem && error.status === 409) await this.read(); // to see what the other entered
		}
	}

	async takePlan(): Promise<void> {
		try {
			this.sheet = await answer(
				api.POST('/api/lines/{line_id}/settings/take-plan', {
					params: this.params,
					body: { by: session.who }
				})
			);
			await this.line.refresh();
		} catch (error) {
			this.problem = (error as Error).message;
		}
	}
}
