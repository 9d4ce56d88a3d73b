/** The round: what is searched and filtered, how much of it is drawn, new lines and imports. */
import { answer, api, type Schemas } from '../api/client';
import { noticed } from '../api/busy.svelte';
import { Reading } from '../api/reading.svelte';
import { session } from '../session.svelte';

export type Line = Schemas['RoundLine'];

/** Lines drawn at first, and more of at a time. */
export const AT_ONCE = 60;

/** Whether it was handed over, whatever is still open of it. */
function isOver(line: Line): boolean {
	return line.words.startsWith('Handed over');
}

export const KINDS = {
	all: () => true,
	needs: (line: Line) => line.severity === 'stop' || line.severity === 'caution' || line.behind > 0,
	hand: (line: Line) => !isOver(line),
	over: isOver
};
export const LABELS = { all: 'All', needs: 'Needs me', hand: 'In hand', over: 'Handed over' };

export interface Fresh {
	site: string;
	siteName: string;
	tag: string;
	title: string;
	/** Its id, or TWIN for a twin of the `model`. */
	application: string;
	model: string;
}

export const TWIN = 'twin';

export class RoundPage {
	private readonly reading = new Reading<Schemas['RoundView']>();
	/** What was made or taken in was refused. */
	private refused = $state('');
	wanted = $state('');
	only = $state<keyof typeof KINDS>('all');
	/** How many lines are drawn; more as one scrolls. */
	most = $state(AT_ONCE);

	readonly sites = $derived(this.round?.sites ?? []);
	readonly every = $derived(this.sites.flatMap((s) => s.lines));
	/** What is searched of each line, made once. */
	private readonly words = $derived(
		Object.fromEntries(
			this.sites.flatMap((s) =>
				s.lines.map((l) => [l.id, `${l.tag} ${l.title} ${s.name} ${l.headline}`.toLowerCase()])
			)
		) as Record<string, string>
	);
	/** What is found; a site without lines is shown while nothing is looked for. */
	private readonly found = $derived.by(() => {
		const text = this.wanted.trim().toLowerCase();
		const looking = text !== '' || this.only !== 'all';
		return this.sites
			.map((site) => ({
				site,
				lines: site.lines.filter((l) => KINDS[this.only](l) && (this.words[l.id] ?? '').includes(text))
			}))
			.filter(({ lines }) => lines.length > 0 || !looking);
	});
	readonly count = $derived(this.found.reduce((sum, { lines }) => sum + lines.length, 0));
	/** The first of what was found, as many as are drawn. */
	readonly drawn = $derived.by(() => {
		let left = this.most;
		return this.found.flatMap(({ site, lines }) => {
			if (left <= 0) return [];
			const taken = lines.slice(0, left);
			left -= taken.length;
			return [{ site, lines: taken }];
		});
	});

	get round(): Schemas['RoundView'] | null {
		return this.reading.value;
	}

	set round(value: Schemas['RoundView'] | null) {
		this.reading.value = value;
	}

	get problem(): string {
		return this.refused || this.reading.problem;
	}

	/** Read it, and again while nobody answers; what comes back stops that. */
	load(): () => void {
		return this.reading.read(() => answer(api.GET('/api/round')));
	}

	fromTheTop(): void {
		this.most = AT_ONCE;
	}

	more(): void {
		this.most += AT_ONCE;
	}

	/** Make a line, and its site where it is a new one; the line's id, or nothing with the problem said. */
	async make(fresh: Fresh): Promise<string | undefined> {
		this.refused = '';
		try {
			if (fresh.application === TWIN) return await this.copy(fresh);
			let site = fresh.site;
			if (site === 'new') {
				site = crypto.randomUUID();
				const made = { id: site, name: fresh.siteName, units: session.system, entries: {}, by: session.by };
				await answer(api.POST('/api/sites', { body: made }));
			}
			const id = crypto.randomUUID();
			const record = { line: { application: { value: fresh.application }, drive_state: { value: 'new' } } };
			await answer(
				api.POST('/api/lines', {
					body: { id, site_id: site, tag: fresh.tag, title: fresh.title, record, by: session.by }
				})
			);
			return id;
		} catch (error) {
			this.refused = (error as Error).message;
			return undefined;
		}
	}

	private async copy({ model, tag, title }: Fresh): Promise<string> {
		const id = crypto.randomUUID();
		await answer(
			api.POST('/api/lines/{line_id}/copy', {
				params: { path: { line_id: model } },
				body: { id, tag, title, by: session.by }
			})
		);
		return id;
	}

	/** Take a line in from a file; its id, or nothing with the problem said. */
	async take(file: File): Promise<string | undefined> {
		this.refused = '';
		const query = `id=${crypto.randomUUID()}&by=${encodeURIComponent(session.by)}`;
		const response = await noticed(`/api/import?${query}`, { method: 'POST', body: await file.text() });
		const found = (await response.json()) as { id?: string; detail?: string };
		if (response.ok) return found.id;
		this.refused = `${file.name}: ${found.detail}`;
		return undefined;
	}
}

/** The stages of a line as the row shows them; they are named once for all lines. */
export function stagesOf(line: Line, stages: Record<string, string>): Schemas['StageView'][] {
	return Object.entries(stages).map(([id, label], i) => ({ id, label, state: line.states[i] ?? 'todo' }));
}

/** Where a line's work stands: there its row leads. */
export function stageInHand(line: Line, stages: Record<string, string>): string {
	return Object.keys(stages)[line.states.indexOf('now')] ?? 'handover';
}
