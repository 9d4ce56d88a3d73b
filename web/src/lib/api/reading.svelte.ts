/** Something read from the server: what was read, what stood in the way, and again by itself while nobody answers. */
import { ApiProblem } from './client';

/** Between tries, in ms: longer each time. */
const AGAIN = [1000, 2000, 4000, 8000];
/** Statuses that pass by themselves: no link, and a server that is starting or full. */
const PASSING = [0, 503];

/** Whether it was refused by nobody, and may well be answered a little later. */
export function passes(error: unknown): boolean {
	return error instanceof ApiProblem && PASSING.includes(error.status);
}

/** What was answered by nobody is tried again, each time a little later, until it is or whoever asked has left. */
export class Again {
	private turn = 0;
	private tries = 0;
	private timer: ReturnType<typeof setTimeout> | undefined;

	/** A try begins; one that is still under way counts no more. Returns by what it is known. */
	begin(): number {
		clearTimeout(this.timer);
		return ++this.turn;
	}

	/** Whether a try is still waited for. */
	counts(turn: number): boolean {
		return turn === this.turn;
	}

	failed(turn: number, error: unknown, again: () => unknown): void {
		if (!this.counts(turn) || !passes(error)) return;
		this.timer = setTimeout(again, AGAIN[Math.min(this.tries++, AGAIN.length - 1)]);
	}

	answered(): void {
		this.tries = 0;
	}

	/** Nobody waits for it any more. */
	stop(): void {
		this.begin();
		this.tries = 0;
	}
}

export class Reading<T> {
	value = $state.raw<T | null>(null);
	problem = $state('');
	private readonly again = new Again();

	/** Read now; an older read that is still under way counts no more. Returns what stops it. */
	read(call: () => Promise<T>): () => void {
		this.again.stop();
		const turn = this.again.begin();
		void this.tried(call, turn);
		return () => {
			if (this.again.counts(turn)) this.again.stop();
		};
	}

	stop(): void {
		this.again.stop();
	}

	private async tried(call: () => Promise<T>, turn: number): Promise<void> {
		try {
			const found = await call();
			if (!this.again.counts(turn)) return;
			this.value = found;
			this.problem = '';
			this.again.answered();
		} catch (error) {
			if (!this.again.counts(turn)) return;
			this.problem = (error as Error).message;
			this.again.failed(turn, error, () => void this.tried(call, turn));
		}
	}
}
