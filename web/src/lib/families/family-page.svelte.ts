/** A family in hand: what was changed of it, undone and saved, what is wrong, and what a line would be dialled. */
import { noticed } from '../api/busy.svelte';
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import { Again } from '../api/reading.svelte';
import { session } from '../session.svelte';

export type Parameter = Schemas['Parameter'];
export type Family = Schemas['Family'];

/** One of which nothing is known yet. */
export const NEW_PARAMETER: Parameter = {
	number: '',
	label: {},
	setting: '',
	page: '',
	unit: '',
	scale: 1,
	offset: 0,
	decimals: 0,
	step: 0,
	low: null,
	high: null,
	of: '',
	default: {},
	choices: {},
	rest: null,
	bit: null,
	needs: null,
	stopped: false,
	cycle: false,
	doubt: '',
	proven: null
};
export const NEW_FAMILY: Family = {
	id: '',
	name: '',
	about: '',
	fits: '',
	languages: ['en'],
	keys: {},
	parameters: [],
	faults: [],
	readings: []
};

type Problem = Schemas['FamilyProblemView'];
export type Show = 'all' | 'unmapped' | 'doubtful' | 'wrong';
const AT_ONCE = 60; // rows that are drawn before somebody scrolls
const UNDO = 100;
const PAUSE = 150; // ms between the last key and the asking

let known: Promise<Schemas['DictionaryView']> | undefined;

/** The dictionary, read once; after a failure once more. */
function dictionary(): Promise<Schemas['DictionaryView']> {
	known ??= answer(api.GET('/api/dictionary')).catch((error: unknown) => {
		known = undefined;
		throw error;
	});
	return known;
}

export class FamilyPage {
	draft = $state.raw<Family>(NEW_FAMILY);
	kept = $state.raw<Schemas['FamilyView'] | null>(null);
	tried = $state.raw<Schemas['TriedView'] | null>(null);
	dictionary = $state.raw<Schemas['DictionaryView'] | null>(null);
	/** Place of the parameter in hand. */
	at = $state(0);
	show = $state<Show>('all');
	search = $state('');
	problem = $state('');
	line = $state('');
	private history = $state.raw<Family[]>([]);
	private timer: ReturnType<typeof setTimeout> | undefined;

	constructor(
		readonly id: string,
		line = ''
	) {
		this.line = line;
	}

	/** Language of the labels and words that are typed; the family's first until another is chosen. */
	chosen = $state('');
	readonly language = $derived(this.chosen || this.draft.languages?.[0] || 'en');
	readonly parameters = $derived(this.draft.parameters ?? []);
	readonly parameter = $derived(this.parameters[this.at] ?? null);
	readonly changed = $derived(
		this.kept !== null && JSON.stringify(this.draft) !== JSON.stringify(this.kept.family)
	);
	readonly undoable = $derived(this.history.length > 0);
	readonly words = $derived(byName((this.dictionary?.settings ?? []).map((w) => [w.id, w])));
	readonly problems = $derived(byPlace(this.tried?.problems ?? []));
	readonly dials = $derived(byName((this.tried?.dials ?? []).map((d) => [String(d.at), d])));
	/** Places of the parameters that are shown. */
	readonly places = $derived(
		this.parameters
			.map((_, at) => at)
			.filter((at) => this.shown(at) && this.matches(this.parameters[at] as Parameter))
	);

	private most = $state(AT_ONCE);
	/** Those of them that are drawn: the first, as far as was scrolled, and up to the one in hand. */
	readonly drawn = $derived(
		this.places.slice(0, Math.max(this.most, this.places.indexOf(this.at) + AT_ONCE / 2))
	);

	/** The end of what is drawn is in sight. */
	more(): void {
		if (this.most < this.places.length) this.most += AT_ONCE;
	}

	private shown(at: number): boolean {
		const p = this.parameters[at] as Parameter;
		if (this.show === 'unmapped') return !p.setting;
		if (this.show === 'doubtful') return Boolean(p.doubt);
		return this.show === 'all' || (this.problems[at] ?? []).some((x) => x.grave);
	}

	private matches(p: Parameter): boolean {
		const text = `${p.number} ${Object.values(p.label).join(' ')} ${this.words[p.setting ?? '']?.label ?? ''}`;
		return text.toLowerCase().includes(this.search.toLowerCase());
	}

	/** Its reads come again while nobody answers; who leaves the page stops them. */
	readonly again = new Again();

	async load(): Promise<void> {
		const turn = this.again.begin();
		try {
			const [kept, words] = await Promise.all([
				answer(api.GET('/api/families/{family_id}', { params: { path: { family_id: this.id } } })),
				dictionary()
			]);
			this.took(kept);
			this.dictionary = words;
			this.again.answered();
			await this.tryIt();
		} catch (error) {
			this.problem = (error as Error).message;
			this.again.failed(turn, error, () => this.load());
		}
	}

	private took(kept: Schemas['FamilyView']): void {
		this.kept = kept;
		this.draft = kept.family;
		this.history = [];
		this.problem = '';
	}

	/** Put another family in hand, so that it can be undone. */
	change(next: Family): void {
		this.history = [...this.history.slice(-UNDO), this.draft];
		this.draft = next;
		this.soon();
	}

	undo(): void {
		const last = this.history.at(-1);
		if (!last) return;
		this.history = this.history.slice(0, -1);
		this.draft = last;
		this.at = Math.min(this.at, Math.max(0, this.parameters.length - 1));
		this.soon();
	}

	/** Change something of the parameter in hand; what is emptied is as it was before anything was known. */
	set(more: { [name in keyof Parameter]?: Parameter[name] | '' | undefined }): void {
		const now = this.parameter;
		if (!now) return;
		const emptied = Object.keys(more).filter((name) => ['', undefined].includes(more[name as 'number']));
		const known = Object.fromEntries(Object.entries(more).filter(([name]) => !emptied.includes(name)));
		const blank = Object.fromEntries(emptied.map((name) => [name, NEW_PARAMETER[name as keyof Parameter]]));
		const next: Parameter = { ...now, ...blank, ...known };
		this.change({ ...this.draft, parameters: this.parameters.map((p, at) => (at === this.at ? next : p)) });
	}

	/** Map the parameter in hand to a setting; choices that the other setting does not have go. */
	map(setting: string): void {
		const word = this.words[setting];
		const choices = word
			? Object.fromEntries(
					Object.keys(word.choices).map((c) => [c, this.parameter?.choices?.[c] ?? { code: '' }])
				)
			: undefined;
		this.set({
			setting,
			choices: word && Object.keys(choices ?? {}).length ? choices : undefined,
			doubt: ''
		});
	}

	add(parameters: Parameter[]): void {
		const have = this.parameters.map((p) => `${p.number} ${p.bit?.at ?? ''}`);
		const fresh = parameters.filter((p) => !have.includes(`${p.number} ${p.bit?.at ?? ''}`));
		const first = this.parameters.length;
		this.change({ ...this.draft, parameters: [...this.parameters, ...fresh] });
		if (fresh.length) this.at = first;
	}

	remove(): void {
		this.change({ ...this.draft, parameters: this.parameters.filter((_, at) => at !== this.at) });
		this.at = Math.min(this.at, Math.max(0, this.parameters.length - 1));
	}

	/** Move the parameter in hand to where the keypad has it. */
	shift(by: number): void {
		const to = this.at + by;
		if (to < 0 || to >= this.parameters.length) return;
		const list = [...this.parameters];
		const [moved] = list.splice(this.at, 1);
		list.splice(to, 0, moved as Parameter);
		this.change({ ...this.draft, parameters: list });
		this.at = to;
	}

	/** It was read back on a real drive, by who is here, today. */
	prove(): void {
		this.set({ proven: { by: session.by, on: today() }, doubt: '' });
	}

	step(by: number): void {
		const now = this.places.indexOf(this.at);
		const next = this.places[Math.min(Math.max(now + by, 0), this.places.length - 1)];
		if (next !== undefined) this.at = next;
	}

	private soon(): void {
		clearTimeout(this.timer);
		this.timer = setTimeout(() => void this.tryIt(), PAUSE);
	}

	/** Ask what is wrong with the draft, and what it dials on the line beside it. */
	async tryIt(): Promise<void> {
		const asked = this.draft;
		try {
			const tried = await answer(
				api.POST('/api/families/try', {
					body: { family: asked, line_id: this.line || null }
				})
			);
			if (asked === this.draft) [this.tried, this.problem] = [tried, ''];
		} catch (error) {
			this.problem = (error as Error).message;
		}
	}

	async save(): Promise<boolean> {
		if (!this.kept || !(await session.signed())) return false;
		try {
			this.took(
				await answer(
					api.PUT('/api/families/{family_id}', {
						params: { path: { family_id: this.id } },
						body: {
							revision: this.kept.revision,
							family: this.draft,
							by: session.by
						}
					})
				)
			);
			await this.tryIt();
			return true;
		} catch (error) {
			this.problem = (error as Error).message;
			if (error instanceof ApiProblem && error.status === 409) this.problem += '. Yours is still here.';
			return false;
		}
	}
}

/** What was found under each name; a record and not a map, which Svelte would have to watch. */
function byName<T>(found: [string, T][]): Record<string, T | undefined> {
	return Object.fromEntries(found);
}

function byPlace(problems: Problem[]): Record<number, Problem[] | undefined> {
	const found: Record<number, Problem[]> = {};
	for (const p of problems) found[p.at] = [...(found[p.at] ?? []), p];
	return found;
}

const today = () => new Intl.DateTimeFormat('sv-SE').format(session.now()); // as ISO has it, where we are

/** An id for a name that no family has yet. */
export function freshId(name: string, taken: readonly { id: string }[]): string {
	const plain =
		name
			.normalize('NFKD')
			.toLowerCase()
			.replace(/[^a-z0-9]+/g, '-')
			.replace(/^-+|-+$/g, '')
			.slice(0, 34) || 'family';
	const ids = taken.map((f) => f.id);
	for (let n = 1; ; n++) {
		const id = n === 1 ? plain : `${plain}-${n}`;
		if (!ids.includes(id) && id !== 'neutral') return id;
	}
}

/** A file of a family as the server understands it. */
export async function readFile(file: File, into = ''): Promise<Family> {
	const reply = await noticed(`/api/families/file?into=${encodeURIComponent(into)}`, {
		method: 'POST',
		body: await file.arrayBuffer()
	});
	const body = await reply.json();
	if (!reply.ok) throw new Error(body.detail ?? `The server answered ${reply.status}.`);
	return body;
}
