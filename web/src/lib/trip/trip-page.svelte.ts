/** A trip: what the drive showed, and the causes ranked by what is on record of the line. */
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import { Again } from '../api/reading.svelte';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';

export const FIELDS = [
	['frequency', 'Frequency', 'frequency'],
	['current', 'Current', 'current'],
	['bus_voltage', 'Bus volts, DC', 'voltage']
] as const;

type Name = (typeof FIELDS)[number][0];

export class TripPage {
	words = $state.raw<Schemas['TripWords'] | null>(null);
	kind = $state('');
	when = $state('steady');
	typed = $state<Record<Name, string>>({ frequency: '', current: '', bus_voltage: '' });
	found = $state.raw<Schemas['TripView'] | null>(null);
	problem = $state('');
	private asked = 0;

	constructor(readonly line: LinePage) {}

	/** Its reads come again while nobody answers; who leaves the page stops them. */
	readonly again = new Again();

	async load(): Promise<void> {
		const turn = this.again.begin();
		try {
			this.words = await answer(
				api.GET('/api/lines/{line_id}/trips', { params: { path: { line_id: this.line.id } } })
			);
			this.problem = '';
			this.again.answered();
		} catch (error) {
			this.problem = (error as Error).message;
			this.again.failed(turn, error, () => this.load());
		}
	}

	/** A reading of the moment; null while it is empty or not understood. */
	private read(name: Name): number | null {
		const dimension = FIELDS.find(([id]) => id === name)?.[2] ?? '';
		const value = session.units.parse(this.typed[name], dimension, session.system);
		return typeof value === 'number' ? value : null;
	}

	/** Ask for the causes of what stands here now; only the latest answer counts. */
	ask(): void {
		if (!this.kind) return;
		const mine = ++this.asked;
		const body = {
			record: this.line.record,
			site_id: this.line.line?.site_id ?? null,
			line_id: this.line.line?.id ?? null,
			kind: this.kind,
			when: this.when,
			frequency: this.read('frequency'),
			current: this.read('current'),
			bus_voltage: this.read('bus_voltage')
		};
		answer(api.POST('/api/trips', { body }))
			.then((got) => {
				if (mine !== this.asked) return;
				this.found = got;
				this.problem = '';
			})
			.catch((error: unknown) => {
				if (mine === this.asked && error instanceof ApiProblem) this.problem = error.message;
			});
	}
}
