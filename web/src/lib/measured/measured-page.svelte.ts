/** What was measured before and now: the logs of a line, a file being read, and what they carry. */
import { noticed } from '../api/busy.svelte';
import { answer, api, ApiProblem, reader, type Schemas } from '../api/client';
import { Reading } from '../api/reading.svelte';
import type { LinePage } from '../line/line-page.svelte';
import { followed, type Progress } from '../loop/work';
import { session } from '../session.svelte';

/** Of a text file its beginning tells how it is laid out; the rest is sent once that is confirmed. */
const BEGINNING = 600_000;

export type LogColumn = Schemas['LogColumn'];
export type Layout = Schemas['Layout'];

export class MeasuredPage {
	private readonly reading = new Reading<Schemas['MeasuredView']>();
	private refused = $state('');
	file = $state.raw<File | null>(null);
	look = $state.raw<Schemas['RecognisedView'] | null>(null);
	layout = $state<Layout | null>(null);
	side = $state<'before' | 'after'>('before');
	progress = $state.raw<Progress | null>(null);
	private asking: AbortController | undefined;

	constructor(readonly line: LinePage) {}

	private get params() {
		return { path: { line_id: this.line.id } };
	}

	get view(): Schemas['MeasuredView'] | null {
		return this.reading.value;
	}

	set view(value: Schemas['MeasuredView'] | null) {
		this.reading.value = value;
	}

	get problem(): string {
		return this.refused || this.reading.problem;
	}

	set problem(value: string) {
		this.refused = value;
	}

	/** Read it, and again while nobody answers; what comes back stops that. */
	load(): () => void {
		return this.reading.read(() => answer(api.GET('/api/lines/{line_id}/measured', { params: this.params })));
	}

	/** Recognise a file; nothing is kept yet. */
	async open(file: File): Promise<void> {
		this.file = file;
		this.look = null;
		this.problem = '';
		const text = /\.(csv|txt|tsv|dat)$/i.test(file.name);
		const whole = !text || file.size <= BEGINNING;
		try {
			const got = await noticed(`/api/lines/${this.line.id}/logs/look?whole=${String(whole)}`, {
				method: 'POST',
				headers: { 'Content-Type': 'application/octet-stream', 'X-Units': reader.units },
				body: whole ? file : file.slice(0, BEGINNING)
			});
			if (!got.ok) throw new Error(((await got.json()) as Schemas['Problem']).detail);
			this.look = (await got.json()) as Schemas['RecognisedView'];
			this.layout = this.look.layout;
			this.side = this.view?.logs.some((l) => l.side === 'before' && !l.aside) ? 'after' : 'before';
		} catch (error) {
			this.problem = (error as Error).message;
			this.file = null;
		}
	}

	/** Read it as confirmed, and keep it. */
	async read(): Promise<void> {
		const { file, look, layout } = this;
		if (!file || !look || !layout || !(await session.signed())) return;
		const asking = (this.asking = new AbortController());
		this.progress = { done: 0, of: 0, before: 0 };
		const told = {
			side: this.side,
			by: session.who,
			name: file.name,
			layout: JSON.stringify(layout)
		};
		const query = Object.entries(told)
			.map(([name, value]) => `${name}=${encodeURIComponent(value)}`)
			.join('&');
		const path = `/api/lines/${this.line.id}/logs/${crypto.randomUUID()}?${query}`;
		try {
			await followed<Schemas['LogView']>(path, file, 'application/octet-stream', asking.signal, (p) => {
				this.progress = p;
			});
			this.leave();
			await this.line.refresh();
			await this.load();
		} catch (error) {
			if (error instanceof ApiProblem || error instanceof TypeError) this.problem = error.message;
		} finally {
			this.progress = null;
		}
	}

	leave(): void {
		this.asking?.abort();
		this.file = this.look = this.layout = null;
	}

	/** Put a log aside or take it back, or say it is of the other side. */
	async move(id: string, change: { side?: 'before' | 'after'; aside?: boolean }): Promise<void> {
		if (!(await session.signed())) return;
		await this.doing(
			api.POST('/api/lines/{line_id}/logs/{log_id}/side', {
				params: { path: { line_id: this.line.id, log_id: id } },
				body: { ...change, by: session.who }
			})
		);
	}

	/** Take the hours at each flow of the duty from a log. */
	async duty(id: string): Promise<void> {
		try {
			const path = { line_id: this.line.id, log_id: id };
			const rows = await answer(api.GET('/api/lines/{line_id}/logs/{log_id}/duty', { params: { path } }));
			const fan = this.line.assessment?.traits.includes('fan');
			this.line.set(fan ? 'duty.air_profile' : 'duty.profile', rows, 'measured');
		} catch (error) {
			this.problem = (error as Error).message;
		}
	}

	/** Stand up for what the logs carry. */
	async claim(): Promise<void> {
		if (!(await session.signed())) return;
		await this.doing(
			api.POST('/api/lines/{line_id}/measured/claim', {
				params: this.params,
				body: { id: crypto.randomUUID(), by: session.who }
			})
		);
	}

	private async doing(call: Parameters<typeof answer>[0]): Promise<void> {
		try {
			await answer(call);
			await this.line.refresh();
			await this.load();
		} catch (error) {
			this.problem = (error as Error).message;
		}
	}
}
