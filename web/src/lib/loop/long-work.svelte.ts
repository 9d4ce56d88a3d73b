/** One piece of long work as a screen shows it: begun, told of, stopped, found or refused. */
import { ApiProblem, type Schemas } from '../api/client';
import { follow, type Progress } from './work';

export class LongWork<T> {
	progress = $state.raw<Progress | null>(null);
	found = $state.raw<T | null>(null);
	problem = $state('');
	private asking: AbortController | undefined;

	constructor(readonly path: string) {}

	get runs(): boolean {
		return this.progress !== null;
	}

	/** In words how far it is. */
	get words(): string {
		const p = this.progress;
		if (!p) return '';
		if (p.before) return `${p.before} before it`;
		return p.of ? `${p.done} of ${p.of}` : 'beginning';
	}

	async begin(body: Schemas['LoopDraft']): Promise<T | null> {
		this.stop();
		const asking = (this.asking = new AbortController());
		this.problem = '';
		this.found = null;
		this.progress = { done: 0, of: 0, before: 0 };
		try {
			const found = await follow<T>(this.path, body, asking.signal, (p) => {
				if (this.asking === asking) this.progress = p;
			});
			if (this.asking !== asking) return null;
			this.found = found;
			return found;
		} catch (error) {
			if (this.asking === asking && error instanceof ApiProblem) this.problem = error.message;
			return null;
		} finally {
			if (this.asking === asking) this.progress = null;
		}
	}

	stop(): void {
		this.asking?.abort();
		this.asking = undefined;
		this.progress = null;
	}
}
