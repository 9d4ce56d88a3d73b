/** The run sheet of one line on this device: the server's, with what still waits here on top of it. */
import { answer, api, type Schemas } from '../api/client';
import { keepAnswer } from '../offline';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';
import * as outbox from './outbox';
import type { Entry } from './outbox';
import { sendLine } from './sending';
import { judge } from './rules';
import { known, patched, withWaiting, type Run, type Step } from './waiting';

export type Kind = Entry['kind'];

/** How far this device's clock may be behind the server's, in ms, for its entries to keep their order. */
const BEHIND = 5000;

export class RunSheet {
	/** As the server has it. */
	private known = $state.raw<Run | null>(null);
	waiting = $state.raw<Entry[]>([]);
	/** Why what was pressed last was not kept. */
	said = $state('');
	/** Entries pressed and on their way to this device's disk. */
	private writing = $state(0);
	problem = $state('');
	/** Texts typed and not kept yet, by step and reading; they outlive a reload. */
	texts = $state<Record<string, string>>({});
	/** Time of an entry from paper, as typed into a date field; empty for now. */
	told = $state('');
	/** Name of the instrument that readings are taken with. */
	instrument = $state('');
	private timer: ReturnType<typeof setTimeout> | undefined;

	readonly run = $derived(
		this.known
			? withWaiting(
					this.known,
					this.waiting.filter((e) => !e.refused)
				)
			: null
	);
	/** How many entries the server has not confirmed. */
	readonly unsent = $derived(this.waiting.length + this.writing);
	readonly refused = $derived(this.waiting.find((e) => e.refused));

	constructor(readonly line: LinePage) {
		this.texts = JSON.parse(remembered(this.draftKey) ?? '{}') as Record<string, string>;
		this.instrument = remembered('mainspring.instrument') ?? '';
	}

	private get draftKey(): string {
		return `mainspring.run.${this.line.id}`;
	}

	/** Read the sheet again when the line has moved on. */
	async load(): Promise<void> {
		try {
			this.waiting = await outbox.waiting(this.line.id);
			this.took(
				await answer(api.GET('/api/lines/{line_id}/run', { params: { path: { line_id: this.line.id } } }))
			);
			void this.send();
		} catch (error) {
			if (!this.known) this.problem = (error as Error).message;
		}
	}

	get seq(): number {
		return this.known?.seq ?? 0;
	}

	private took(run: Run): void {
		if (this.known && run.seq < this.known.seq) return; // an answer that was overtaken
		this.known = run;
		this.problem = '';
	}

	/** A command was kept: the sheet as it changed, read anew where somebody else was in between. */
	private async changed(kept: Schemas['KeptView']): Promise<void> {
		const run = this.known && patched(this.known, kept);
		if (!run) return this.load();
		this.took(run);
		void keepAnswer(`/api/lines/${this.line.id}/run`, run);
		this.line.refresh().catch(() => undefined); // the stream tells of it again
	}

	type(key: string, text: string): void {
		this.texts[key] = text;
		remember(this.draftKey, JSON.stringify(this.texts));
	}

	/** Let go of texts typed at a prefix: what they said is kept. */
	forget(prefix: string): void {
		for (const key of Object.keys(this.texts)) if (key.startsWith(`${prefix}.`)) delete this.texts[key];
		remember(this.draftKey, JSON.stringify(this.texts));
	}

	/** Keep an entry on this device and let go of the texts it was typed in, then send what waits. */
	async keep(
		step: Step,
		kind: Kind,
		data: Record<string, unknown> = {},
		note = '',
		typed = '',
		photo?: Blob
	): Promise<void> {
		this.writing += 1; // said from the press on: between it and the disk's answer nothing else tells of it
		try {
			this.said = '';
			if (!(await session.signed())) return;
			const made = this.entryOf(step, kind, data, note, photo);
			const verdict = judge(step.rules, { ...made, paper: made.told, clock: null }, known(step));
			if ('why' in verdict) {
				this.said = verdict.why; // what the server would refuse is not kept to be refused
				return;
			}
			const entry = await outbox.keep(made);
			if (typed) this.forget(typed); // before the sending: the next may be typed by its end
			this.waiting = [...this.waiting, entry];
		} finally {
			this.writing -= 1;
		}
		await this.send();
	}

	private entryOf(
		step: Step,
		kind: Kind,
		data: Record<string, unknown>,
		note: string,
		photo: Blob | undefined
	): Entry {
		const tool = this.known?.visit?.instruments.find((i) => i.name === this.instrument);
		const measured = kind === 'readings' || kind === 'row' || kind === 'turns';
		const told = this.told ? Date.parse(this.told) : null;
		return {
			line: this.line.id,
			id: crypto.randomUUID(),
			step: step.id,
			title: step.title,
			kind,
			data,
			by: session.who,
			note: note.trim(),
			at: isoTime(told ?? this.later(session.now())),
			told: told !== null,
			instrument: measured && tool ? tool : null,
			seen: this.seenOf(step, data),
			sheet: this.seq,
			...session.running(),
			...(photo ? { photo } : {})
		};
	}

	/** A moment of this device, but later than all that is known here: its clock may be a little behind the server's. */
	private later(now: number): number {
		const known = [...(this.known?.steps ?? []).flatMap((s) => s.evidence), ...this.waiting];
		const latest = Math.max(0, ...known.map((e) => Date.parse(e.at)));
		return latest >= now && latest - now < BEHIND ? latest + 1 : now;
	}

	/** What is known to be in force for the part of a step that an entry is about. */
	private seenOf(step: Step, data: Record<string, unknown>): string[] {
		const part = data['reference'] ?? data['unit'];
		return step.evidence.filter((e) => (e.data['reference'] ?? e.data['unit']) === part).map((e) => e.id);
	}

	/** Send what waits of this line; tried again while there is no link. */
	async send(): Promise<void> {
		clearTimeout(this.timer);
		const outcome = await sendLine(this.line.id, (kept) => this.changed(kept));
		if (outcome === 'no link') this.timer = setTimeout(() => void this.send(), 3000);
		this.waiting = await outbox.waiting(this.line.id);
	}

	/** Evidence that somebody else kept in between, of a refused entry. */
	static theirs(entry: Entry): Schemas['EvidenceView'][] {
		return ((entry.refused?.problem.current as { evidence?: Schemas['EvidenceView'][] } | null)?.evidence ??
			[]) as Schemas['EvidenceView'][];
	}

	/** Keep a refused entry beside what others kept, or try it once more. */
	async insist(entry: Entry): Promise<void> {
		const { refused: _why, ...rest } = entry;
		void _why;
		await outbox.keep({ ...rest, seen: [...entry.seen, ...RunSheet.theirs(entry).map((e) => e.id)] });
		await this.send();
	}

	/** Let a refused entry go. */
	async letGo(entry: Entry): Promise<void> {
		await outbox.remove(entry);
		this.waiting = await outbox.waiting(this.line.id);
		await this.send();
	}

	async putVisit(
		id: string,
		visit: Pick<Schemas['VisitEntry'], 'purpose' | 'instruments' | 'note' | 'closed'>,
		seen: Schemas['InstrumentView'][]
	): Promise<void> {
		if (!(await session.signed())) return;
		await this.changed(
			await answer(
				api.PUT('/api/lines/{line_id}/visits/{visit_id}', {
					params: { path: { line_id: this.line.id, visit_id: id } },
					body: { ...visit, seen, by: session.who }
				})
			)
		);
	}

	measuresWith(name: string): void {
		this.instrument = name;
		remember('mainspring.instrument', name);
	}
}

function isoTime(moment: number): string {
	return new Date(moment).toISOString();
}

function remembered(key: string): string | null {
	try {
		return localStorage.getItem(key);
	} catch {
		return null;
	}
}

function remember(key: string, text: string): void {
	try {
		localStorage.setItem(key, text);
	} catch {
		/* storage is closed to us */
	}
}
