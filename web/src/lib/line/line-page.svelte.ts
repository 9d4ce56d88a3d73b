/**
 * One open line: its record as kept, the entries being typed, the verdicts on them, and the saving.
 *
 * Every change is written to this device at once, judged by the server at once, and saved by the server shortly
 * after; a save that another person's came before is shown, never resolved silently.
 */
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import { session } from '../session.svelte';

export type Line = Schemas['LineView'];
export type Assessment = Schemas['AssessmentView'];
export type Value = number | string | string[] | number[][];
export type Provenance = 'plate' | 'measured' | 'given' | 'assumed';
export type Entry = { value: Value; provenance?: Provenance; note?: string; upheld?: string; typed?: string };
export type RecordData = Record<string, Record<string, Entry>>;
type Conflict = { revision: number; tag: string; title: string; record: RecordData };

const SAVE_AFTER = 500; // ms of quiet
/** After so long without a beat of the stream, in ms, the link is taken for lost; the server beats every 5 s. */
const SILENCE = 12_000;
const AGAIN = 1000; // ms until the stream is tried anew

export class LinePage {
	line = $state.raw<Line | null>(null);
	record = $state.raw<RecordData>({});
	tag = $state('');
	title = $state('');
	assessment = $state.raw<Assessment | null>(null);
	selected = $state('supply');
	problem = $state('');
	conflict = $state.raw<Conflict | null>(null);
	saving = $state<'saved' | 'waiting' | 'saving' | 'offline'>('saved');
	/** Paths of entries that the server refused: they stay in their fields with a message, and hold back no other. */
	private refused: string[] = [];
	/** The record on which the verdicts were given: it lags what is being typed by a moment. */
	private assessed = $state.raw<RecordData>({});
	/** Counts writes, so that pages know when to read the sheet again. */
	version = $state(0);
	/** What the server told last: the count of the line's changes. Told anew with each beat, so what a page missed is read again. */
	told = $state.raw({ seq: 0 });
	/** Count of the line's changes, from its own reading on: the first word of the stream is none that is new. */
	readonly seq = $derived(Math.max(this.told.seq, this.line?.seq ?? 0));

	private revision = 0;
	private timer: ReturnType<typeof setTimeout> | undefined;
	private judging: AbortController | undefined;
	private saved: Promise<void> = Promise.resolve();

	constructor(readonly id: string) {}

	async load(): Promise<void> {
		const line = await answer(api.GET('/api/lines/{line_id}', { params: { path: { line_id: this.id } } }));
		this.take(line);
		const kept = this.journal();
		if (!kept) return;
		if (kept.revision === line.revision) {
			this.change(() => kept.record, kept.tag, kept.title);
		} else {
			this.conflict = {
				revision: line.revision,
				tag: line.tag,
				title: line.title,
				record: withoutSite(line.record)
			};
			this.record = kept.record;
			this.tag = kept.tag;
			this.title = kept.title;
			if (!this.differences.length && kept.tag === line.tag && kept.title === line.title) {
				// our own save, whose answer did not arrive before the page went
				this.conflict = null;
				this.dropJournal();
				this.take(line);
			} else this.judge();
		}
	}

	private take(line: Line): void {
		this.line = line;
		this.record = withoutSite(line.record);
		this.tag = line.tag;
		this.title = line.title;
		this.assessment = line.assessment;
		this.assessed = this.record;
		this.revision = line.revision;
		this.version += 1;
		session.atSite(line.site_id, line.site_units);
	}

	/** Whether the verdicts are those on what stands here now. */
	get judged(): boolean {
		return this.assessed === this.record;
	}

	/** The money of the line's site; empty where none was said. */
	get currency(): string {
		const record = this.line?.record as RecordData | undefined;
		return String(record?.['site']?.['currency']?.value ?? '');
	}

	entry(path: string): Entry | undefined {
		const [group = '', name = ''] = path.split('.');
		return this.record[group]?.[name];
	}

	/** Set or clear (undefined) one entry; `typed` is the number with its unit, as it was typed. */
	set(path: string, value: Value | undefined, provenance?: string, typed?: string): void {
		this.refused = this.refused.filter((other) => other !== path);
		const [group = '', name = ''] = path.split('.');
		const before = this.record[group]?.[name];
		if (before?.value === value && value !== undefined) return;
		this.change((record) => {
			const fields = { ...(record[group] ?? {}) };
			if (value === undefined) delete fields[name];
			else
				fields[name] = {
					value,
					...(provenance ? { provenance: provenance as Provenance } : {}),
					...(typed ? { typed } : {})
				};
			return { ...record, [group]: fields };
		});
	}

	/** Say why a doubted plate value stands; empty takes it back. The reason goes with the value. */
	uphold(path: string, why: string): void {
		const [group = '', name = ''] = path.split('.');
		const entry = this.record[group]?.[name];
		if (!entry) return;
		const { upheld: _before, ...rest } = entry;
		void _before;
		const next = why.trim() ? { ...rest, upheld: why.trim() } : rest;
		this.change((record) => ({ ...record, [group]: { ...record[group], [name]: next } }));
	}

	/** Whether a field is asked on this line: none of its traits named means always. */
	asks(field: Schemas['FieldView']): boolean {
		const when = field.when ?? [];
		return when.length === 0 || when.some((trait) => this.assessment?.traits.includes(trait));
	}

	rename(tag: string, title: string): void {
		this.change((r) => r, tag, title);
	}

	private change(make: (record: RecordData) => RecordData, tag = this.tag, title = this.title): void {
		this.record = make(this.record);
		this.tag = tag;
		this.title = title;
		this.keepJournal();
		this.saving = 'waiting';
		this.judge();
		clearTimeout(this.timer);
		this.timer = setTimeout(() => void this.save(), SAVE_AFTER);
	}

	/** Ask for verdicts on what stands now; only the latest answer counts. */
	private judge(): void {
		this.judging?.abort();
		const judging = new AbortController();
		this.judging = judging;
		const record = this.record;
		answer(
			api.POST('/api/assess', {
				body: { record, site_id: this.line?.site_id ?? null, line_id: this.line?.id ?? null },
				signal: judging.signal
			})
		)
			.then((found) => {
				this.assessment = found;
				this.assessed = record;
				session.reachable = true;
			})
			.catch((error: unknown) => {
				if (error instanceof ApiProblem && error.status === 0) session.reachable = false;
			});
	}

	/** The same record with what was decided, left or read meanwhile: its verdicts may be others. */
	private takeVerdicts(line: Schemas['LineView']): void {
		this.line = line;
		this.assessment = line.assessment;
		this.assessed = this.record;
	}

	/** Read stages and verdicts again after a write that did not go through the record (evidence, settings). */
	async refresh(): Promise<void> {
		const line = await answer(api.GET('/api/lines/{line_id}', { params: { path: { line_id: this.id } } }));
		if (line.revision === this.revision && this.saving === 'saved') this.takeVerdicts(line);
	}

	/** Listen for what others keep, while somebody looks; returns what ends it. */
	watch(): () => void {
		let stream: EventSource | undefined;
		let timer: ReturnType<typeof setTimeout> | undefined;
		const close = () => {
			clearTimeout(timer);
			stream?.close();
			stream = undefined;
		};
		const lost = () => {
			close();
			session.reachable = false;
			timer = setTimeout(open, AGAIN);
		};
		const open = () => {
			close();
			if (document.visibilityState !== 'visible' || !('EventSource' in globalThis)) return;
			stream = new EventSource(`/api/lines/${this.id}/stream`);
			timer = setTimeout(lost, SILENCE);
			stream.onerror = lost;
			stream.onmessage = (message: MessageEvent<string>) => {
				clearTimeout(timer);
				timer = setTimeout(lost, SILENCE);
				void this.heard(JSON.parse(message.data) as { seq: number; now: string });
			};
		};
		document.addEventListener('visibilitychange', open);
		globalThis.addEventListener('offline', lost);
		open();
		return () => {
			document.removeEventListener('visibilitychange', open);
			globalThis.removeEventListener('offline', lost);
			close();
		};
	}

	private async heard(told: { seq: number; now: string }): Promise<void> {
		session.hears(told.now);
		this.told = told;
		try {
			if (this.line && told.seq > this.line.seq) await this.catchUp();
		} catch (error) {
			if (!(error instanceof ApiProblem)) throw error; // the next beat tries again
		}
	}

	/** Take what others saved, unless something typed here still waits: then the save finds the conflict. */
	private async catchUp(): Promise<void> {
		if (this.saving !== 'saved' || this.conflict) return;
		const line = await answer(api.GET('/api/lines/{line_id}', { params: { path: { line_id: this.id } } }));
		if (this.saving !== 'saved' || this.conflict) return;
		if (line.revision === this.revision) this.takeVerdicts(line);
		else this.take(line);
	}

	/** Save now; resolves when nothing is waiting. */
	async flush(): Promise<void> {
		if (this.saving === 'waiting') {
			clearTimeout(this.timer);
			await this.save();
		}
		await this.saved;
	}

	private save(): Promise<void> {
		this.saved = this.saved.then(() => this.saveNow());
		return this.saved;
	}

	private async saveNow(): Promise<void> {
		if (this.conflict) return;
		const mine = this.record;
		const known = this.judged ? (this.assessment?.problems.map((p) => p.field) ?? []) : [];
		const left = [...this.refused, ...known.filter((path) => !this.refused.includes(path))];
		const sent = without(mine, left);
		this.saving = 'saving';
		try {
			const line = await answer(
				api.PUT('/api/lines/{line_id}', {
					params: { path: { line_id: this.id } },
					body: { revision: this.revision, tag: this.tag, title: this.title, record: sent, by: session.by }
				})
			);
			this.revision = line.revision;
			this.problem = '';
			session.reachable = true;
			// what waits still is built on what was saved now: a reload must not take us for somebody else
			if (this.record !== mine || left.length) this.keepJournal();
			if (this.record === mine) {
				this.line = line;
				this.saving = 'saved';
				if (left.length) {
					const several = left.length > 1;
					this.problem = `${left.length} ${several ? 'entries are' : 'entry is'} not kept; all else is saved`;
				} else {
					this.assessment = line.assessment;
					this.assessed = mine;
					this.dropJournal();
				}
			} else {
				this.saving = 'waiting';
			}
			this.version += 1;
		} catch (error) {
			this.failed(error);
		}
	}

	private failed(error: unknown): void {
		if (!(error instanceof ApiProblem)) throw error;
		this.saving = 'offline';
		if (error.status === 409 && error.problem.current) {
			this.conflict = error.problem.current as unknown as Conflict;
			this.saving = 'waiting';
			return;
		}
		const refused = error.problem.errors.map((e) => e.field).filter((path) => this.entry(path));
		if (error.status === 422 && refused.some((path) => !this.refused.includes(path))) {
			this.refused = [...this.refused, ...refused.filter((path) => !this.refused.includes(path))]; // they stay in their fields, all else is saved
			this.saving = 'waiting';
			queueMicrotask(() => void this.save());
			return;
		}
		this.problem = error.message;
		if (error.status === 0 || error.status === 503) {
			session.reachable = false;
			clearTimeout(this.timer);
			this.timer = setTimeout(() => void this.save(), 3000);
		}
	}

	/** Keep what stands here over the other version. */
	keepMine(): void {
		if (!this.conflict) return;
		this.revision = this.conflict.revision;
		this.conflict = null;
		void this.save();
	}

	/** Take the other version; what was typed here is let go. */
	async takeTheirs(): Promise<void> {
		this.conflict = null;
		this.dropJournal();
		this.saving = 'saved';
		const line = await answer(api.GET('/api/lines/{line_id}', { params: { path: { line_id: this.id } } }));
		this.take(line);
	}

	/** Fields in which the two versions of a conflict differ. */
	get differences(): string[] {
		if (!this.conflict) return [];
		const paths: string[] = [];
		for (const record of [this.record, this.conflict.record])
			for (const [group, fields] of Object.entries(record))
				for (const name of Object.keys(fields)) paths.push(`${group}.${name}`);
		return paths.filter((path, i) => {
			if (paths.indexOf(path) !== i) return false;
			const [group = '', name = ''] = path.split('.');
			return (
				JSON.stringify(this.record[group]?.[name]?.value) !==
				JSON.stringify(this.conflict?.record[group]?.[name]?.value)
			);
		});
	}

	openWorking(key: string): void {
		const saved = /^(setting|step|proof|measured)\./.test(key);
		session.working = saved
			? answer(api.GET('/api/lines/{line_id}/working/{key}', { params: { path: { line_id: this.id, key } } }))
			: this.workingOf(key);
	}

	workingOf(key: string): Promise<Schemas['WorkingView']> {
		return answer(
			api.POST('/api/working', {
				body: {
					record: this.assessed,
					site_id: this.line?.site_id ?? null,
					line_id: this.line?.id ?? null,
					key,
					tried: {}
				}
			})
		);
	}

	private get journalKey(): string {
		return `mainspring.draft.${this.id}`;
	}

	private keepJournal(): void {
		try {
			localStorage.setItem(
				this.journalKey,
				JSON.stringify({ revision: this.revision, tag: this.tag, title: this.title, record: this.record })
			);
		} catch {
			/* the device keeps nothing for us: the server's copy has to do */
		}
	}

	private dropJournal(): void {
		try {
			localStorage.removeItem(this.journalKey);
		} catch {
			/* nothing was kept */
		}
	}

	private journal(): Conflict | null {
		try {
			const text = localStorage.getItem(this.journalKey);
			return text ? (JSON.parse(text) as Conflict) : null;
		} catch {
			return null;
		}
	}
}

function withoutSite(record: Line['record']): RecordData {
	const { site: _site, ...own } = record as RecordData;
	void _site;
	return own;
}

/** The record without the entries at some paths. */
function without<T extends Record<string, Record<string, unknown>>>(record: T, paths: string[]): T {
	if (!paths.length) return record;
	const kept = Object.entries(record).map(([group, fields]) => [
		group,
		Object.fromEntries(Object.entries(fields).filter(([name]) => !paths.includes(`${group}.${name}`)))
	]);
	return Object.fromEntries(kept) as T;
}
