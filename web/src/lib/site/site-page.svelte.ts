/** A site's facts and its own practice, typed in the reader's units and kept together. */
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import { session } from '../session.svelte';
import type { Holder } from '../line/context';
import type { Entry, Value } from '../line/line-page.svelte';
import type { System } from '../units';

type Field = Schemas['FieldView'];
type Entries = Record<string, Entry>;

const MONEY = 'Tariff and money';

export class SitePage implements Holder {
	/** A site is judged when it is kept. */
	readonly assessment = null;
	site = $state.raw<Schemas['SiteView'] | null>(null);
	name = $state('');
	units = $state<System>('si');
	private entries = $state.raw<Entries>({});
	/** Texts as typed, by field, until they are kept. */
	private texts = $state<Record<string, string>>({});
	/** What of the texts was not understood, by field. */
	wrong = $state<Record<string, string>>({});
	problem = $state('');
	/** What somebody else saved in between. */
	theirs = $state.raw<Schemas['SiteView'] | null>(null);
	busy = $state(false);

	readonly fields = $derived(session.groups.find((g) => g.id === 'site')?.fields ?? []);
	readonly facts = $derived(this.fields.filter((f) => !f.more));
	readonly money = $derived(this.fields.filter((f) => f.tab === MONEY));
	readonly own = $derived(this.fields.filter((f) => f.more && f.tab !== MONEY));
	readonly changed = $derived(
		this.site !== null &&
			(this.name !== this.site.name ||
				this.units !== this.site.units ||
				JSON.stringify(this.entries) !== JSON.stringify(plain(this.site)))
	);

	constructor(readonly id: string) {}

	async load(): Promise<void> {
		try {
			this.take(await answer(api.GET('/api/sites/{site_id}', { params: { path: { site_id: this.id } } })));
		} catch (error) {
			this.problem = (error as Error).message;
		}
	}

	private take(site: Schemas['SiteView']): void {
		this.site = site;
		this.name = site.name;
		this.units = site.units === 'us' ? 'us' : 'si';
		this.entries = plain(site);
		this.texts = {};
		this.wrong = {};
		this.theirs = null;
		this.problem = '';
	}

	/** What stands in a field: as typed, or as kept in the reader's units. */
	text(field: Field): string {
		const typed = this.texts[field.name];
		if (typed !== undefined) return typed;
		const value = this.entries[field.name]?.value;
		if (value === undefined) return '';
		if (typeof value === 'string') return value;
		return typeof value !== 'number'
			? ''
			: session.units.number(value, field.dimension, session.system, undefined, 7);
	}

	entry(path: string): Entry | undefined {
		return this.entries[path.replace(/^site\./, '')];
	}

	set(path: string, value: Value | undefined): void {
		const name = path.replace(/^site\./, '');
		const { [name]: _before, ...rest } = this.entries;
		void _before;
		this.entries = value === undefined ? rest : { ...rest, [name]: { value } };
	}

	/** Take what is typed; empty leaves it to the trade. */
	type(field: Field, text: string): void {
		this.texts[field.name] = text;
		delete this.wrong[field.name];
		const { [field.name]: _before, ...rest } = this.entries;
		void _before;
		if (!text.trim()) {
			this.entries = rest;
			return;
		}
		const read =
			field.kind === 'quantity'
				? session.units.parse(text, field.dimension ?? '', session.system)
				: text.trim();
		if (typeof read === 'string' && field.kind === 'quantity') this.wrong[field.name] = `Not read: ${read}.`;
		else this.entries = { ...rest, [field.name]: { value: read } };
	}

	async keep(): Promise<void> {
		if (!this.site || Object.keys(this.wrong).length) return;
		this.busy = true;
		this.problem = '';
		try {
			const body = {
				revision: this.site.revision,
				name: this.name,
				units: this.units,
				entries: this.entries,
				by: session.by
			};
			const path = { site_id: this.id };
			this.take(await answer(api.PUT('/api/sites/{site_id}', { params: { path }, body })));
		} catch (error) {
			if (!(error instanceof ApiProblem)) throw error;
			this.problem = error.message;
			if (error.status === 409 && error.problem.current)
				this.theirs = { ...(error.problem.current as unknown as Schemas['SiteView']), id: this.id };
			for (const one of error.problem.errors)
				this.wrong[one.field.replace(/^site\./, '')] = `${one.value} is not taken; allowed: ${one.allowed}`;
		}
		this.busy = false;
	}

	/** Keep what was typed over the other version. */
	async keepMine(): Promise<void> {
		if (!this.theirs || !this.site) return;
		this.site = { ...this.site, revision: this.theirs.revision };
		this.theirs = null;
		await this.keep();
	}

	/** Take the other version; what was typed here is let go. */
	takeTheirs(): void {
		if (this.theirs) this.take(this.theirs);
	}
}

function plain(site: Schemas['SiteView']): Entries {
	return Object.fromEntries(
		Object.entries(site.entries).map(([name, e]) => [name, { value: e.value as Value }])
	);
}
