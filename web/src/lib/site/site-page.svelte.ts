/** A site's facts and its own practice, typed in the reader's units and kept by themselves, as a line's are. */
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import { Again } from '../api/reading.svelte';
import { session } from '../session.svelte';
import type { Holder } from '../line/context';
import type { Entry, Value } from '../line/line-page.svelte';
import type { System } from '../units';

type Field = Schemas['FieldView'];
type Entries = Record<string, Entry>;

const MONEY = 'Tariff and money';
/** Quiet after the last change until it is kept, ms. */
const SAVE_AFTER = 600;

export class SitePage implements Holder {
	/** A site has no verdicts of its own. */
	readonly assessment = null;
	site = $state.raw<Schemas['SiteView'] | null>(null);
	private named = $state('');
	private system = $state<System>('si');
	private entries = $state.raw<Entries>({});
	/** Texts as typed, by field, until they are kept. */
	private texts = $state<Record<string, string>>({});
	/** What of the texts was not understood, by field. */
	wrong = $state<Record<string, string>>({});
	problem = $state('');
	/** What somebody else saved in between. */
	theirs = $state.raw<Schemas['SiteView'] | null>(null);
	busy = $state(false);
	private timer: ReturnType<typeof setTimeout> | undefined;
	private saved: Promise<void> = Promise.resolve();

	readonly fields = $derived(session.groups.find((g) => g.id === 'site')?.fields ?? []);
	readonly facts = $derived(this.fields.filter((f) => !f.more));
	readonly money = $derived(this.fields.filter((f) => f.tab === MONEY));
	readonly own = $derived(this.fields.filter((f) => f.more && f.tab !== MONEY));
	readonly changed = $derived(
		this.site !== null &&
			((this.named.trim() || this.site.name) !== this.site.name ||
				this.system !== this.site.units ||
				told(this.entries) !== told(plain(this.site)))
	);

	constructor(readonly id: string) {}

	/** Its reads come again while nobody answers; who leaves the page stops them. */
	readonly again = new Again();

	async load(): Promise<void> {
		const turn = this.again.begin();
		try {
			this.take(await answer(api.GET('/api/sites/{site_id}', { params: { path: { site_id: this.id } } })));
			this.problem = '';
			this.again.answered();
		} catch (error) {
			this.problem = (error as Error).message;
			this.again.failed(turn, error, () => this.load());
		}
	}

	get name(): string {
		return this.named;
	}

	set name(text: string) {
		this.named = text;
		delete this.wrong['name'];
		if (text.trim()) this.soon();
		else this.wrong['name'] = 'A site needs a name.';
	}

	get units(): System {
		return this.system;
	}

	set units(system: System) {
		this.system = system;
		this.soon();
	}

	private take(site: Schemas['SiteView']): void {
		this.site = site;
		this.named = site.name;
		this.system = session.units.known(site.units);
		session.atSite(site.id, site.units);
		this.entries = plain(site);
		this.texts = {};
		this.wrong = {};
		this.theirs = null;
		this.problem = '';
	}

	private soon(): void {
		clearTimeout(this.timer);
		this.timer = setTimeout(() => void this.keep(), SAVE_AFTER);
	}

	/** Whether a field is asked: one that goes with a choice of another, with that one alone. */
	asks(field: Field): boolean {
		return !field.goes_with || this.entry(field.goes_with[0] ?? '')?.value === field.goes_with[1];
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
		this.put(name, value);
	}

	private put(name: string, value: Value | undefined): void {
		const { [name]: _before, ...rest } = this.entries;
		void _before;
		this.entries = value === undefined ? rest : { ...rest, [name]: { value } };
		this.soon();
	}

	/** What was kept of a field stands where its text was not taken: one refusal holds back no other entry. */
	private asKept(name: string): void {
		const before = this.site ? plain(this.site)[name] : undefined;
		this.put(name, before?.value);
	}

	/** Take what is typed; empty leaves it to the trade. */
	type(field: Field, text: string): void {
		this.texts[field.name] = text;
		delete this.wrong[field.name];
		if (!text.trim()) {
			this.put(field.name, undefined);
			return;
		}
		const read =
			field.kind === 'quantity'
				? session.units.parse(text, field.dimension ?? '', session.system)
				: text.trim();
		if (typeof read === 'string' && field.kind === 'quantity') {
			this.wrong[field.name] = `Not read: ${read}.`;
			this.asKept(field.name);
		} else this.put(field.name, read);
	}

	/** The field is left: it shows what was understood, and that is kept. */
	settle(field: Field): void {
		if (this.wrong[field.name] !== undefined) return;
		delete this.texts[field.name];
		void this.keep();
	}

	/** Keep what stands here now, after what is being kept. */
	keep(): Promise<void> {
		clearTimeout(this.timer);
		this.saved = this.saved.then(() => this.keepNow());
		return this.saved;
	}

	private async keepNow(): Promise<void> {
		if (!this.site || this.theirs || !this.changed) return;
		const body = {
			revision: this.site.revision,
			name: this.named.trim() || this.site.name,
			units: this.system,
			entries: this.entries,
			by: session.by
		};
		this.busy = true;
		this.problem = '';
		try {
			const path = { site_id: this.id };
			// goes out although the page is left meanwhile
			this.site = await answer(api.PUT('/api/sites/{site_id}', { params: { path }, body, keepalive: true }));
			if (this.entries === body.entries) this.entries = plain(this.site); // as the server took them
		} catch (error) {
			if (!(error instanceof ApiProblem)) throw error;
			this.problem = error.message;
			if (error.status === 409 && error.problem.current)
				this.theirs = { ...(error.problem.current as unknown as Schemas['SiteView']), id: this.id };
			for (const one of error.problem.errors) this.refuse(one);
			if (error.status === 0 || error.status === 503) this.timer = setTimeout(() => void this.keep(), 3000);
		}
		this.busy = false;
	}

	private refuse(one: { field: string; value: string; allowed: string }): void {
		const name = one.field.replace(/^site\./, '');
		if (this.entries[name] === undefined) return;
		this.wrong[name] = `${one.value} is not taken; allowed: ${one.allowed}`;
		const field = this.fields.find((f) => f.name === name);
		if (field) this.texts[name] ??= this.text(field);
		this.asKept(name);
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
		if (!this.theirs) return;
		clearTimeout(this.timer);
		this.take(this.theirs);
	}
}

function plain(site: Schemas['SiteView']): Entries {
	return Object.fromEntries(
		Object.entries(site.entries).map(([name, e]) => [name, { value: e.value as Value }])
	);
}

/** Entries as a text that does not depend on their order. */
function told(entries: Entries): string {
	return JSON.stringify(Object.entries(entries).sort(([a], [b]) => (a < b ? -1 : 1)));
}
