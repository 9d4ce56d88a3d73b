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

/** Do it again a little later, where it failed because nobody answered. */
export function againLater(error: unknown, again: () => unknown): void {
	if (passes(error)) setTimeout(again, AGAIN[1]);
}

export class Reading<T> {
	value = $state.raw<T | null>(null);
	problem = $state('');
	private turn = 0;
	private timer: ReturnType<typeof setTimeout> | undefined;

	/** Read now; an older read that is still under way counts no more. Returns what stops it. */
	read(call: () => Promise<T>): () => void {
		const turn = ++this.turn;
		clearTimeout(this.timer);
		void this.tried(call, turn, 0);
		return () => {
			if (turn === this.turn) this.stop();
		};
	}

	stop(): void {
		this.turn++;
		clearTimeout(this.timer);
	}

	private async tried(call: () => Promise<T>, turn: number, tries: number): Promise<void> {
		try {
			const found = await call();
			if (turn !== this.turn) return;
			this.value = found;
			this.problem = '';
		} catch (error) {
			if (turn !== this.turn) return;
			this.problem = (error as Error).message;
			if (!passes(error)) return;
			const wait = AGAIN[Math.min(tries, AGAIN.length - 1)];
			this.timer = setTimeout(() => void this.tried(call, turn, tries + 1), wait);
		}
	}
}
