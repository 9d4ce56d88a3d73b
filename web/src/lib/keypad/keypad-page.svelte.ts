/** The sheet at the keypad: which parameter is in hand, what was read back, and what was kept of it. */
import { answer, api, ApiProblem, type Schemas } from '../api/client';
import { Again } from '../api/reading.svelte';
import type { LinePage } from '../line/line-page.svelte';
import { session } from '../session.svelte';

export type Key = Schemas['KeyView'];

export class KeypadPage {
	view = $state.raw<Schemas['KeypadView'] | null>(null);
	problem = $state('');
	/** What stands in the field of the parameter in hand. */
	text = $state('');
	/** Only what is not read back, or differs. */
	onlyOpen = $state(false);
	private inHand = $state('');
	/** Whether it is read before anything is set, or after. */
	moment = $state<'left' | 'found'>('left');
	language = $state('');

	constructor(readonly line: LinePage) {}

	readonly steps = $derived((this.view?.steps ?? []).filter((s) => !this.onlyOpen || !isDone(s) || s.setting === this.inHand)); // prettier-ignore
	readonly at = $derived(Math.max(0, this.steps.findIndex((s) => s.setting === this.inHand))); // prettier-ignore
	readonly step = $derived(this.steps[this.at] ?? null);
	readonly done = $derived((this.view?.steps ?? []).filter(isDone).length);
	readonly differing = $derived((this.view?.steps ?? []).filter((s) => s.verdict === 'differs').length);

	/** Its reads come again while nobody answers; who leaves the page stops them. */
	readonly again = new Again();

	async load(): Promise<void> {
		const turn = this.again.begin();
		try {
			this.took(
				await answer(
					api.GET('/api/lines/{line_id}/keypad', {
						params: { path: { line_id: this.line.id }, query: { language: this.language } }
					})
				)
			);
			this.problem = '';
			this.again.answered();
		} catch (error) {
			if (!this.view) this.problem = (error as Error).message;
			this.again.failed(turn, error, () => this.load());
		}
	}

	private took(view: Schemas['KeypadView']): void {
		this.view = view;
		if (view.steps.some((s) => s.setting === this.inHand)) return;
		this.inHand = (view.steps.find((s) => !isDone(s) && !s.hidden) ?? view.steps[0])?.setting ?? '';
	}

	/** Go to another parameter; what was typed and not kept goes. */
	go(setting: string): void {
		this.inHand = setting;
		this.text = '';
		this.problem = '';
	}

	move(by: number): void {
		const next = this.steps[this.at + by];
		if (next) this.go(next.setting);
	}

	/** What is taken where nothing was typed: what is dialled; as found nothing is taken unread. */
	private get usual(): string {
		return this.moment === 'left' ? (this.step?.text ?? '') : '';
	}

	/** Keep what stands on the display, as typed or else as dialled, and go on to the next. */
	async keep(text = this.text.trim() || this.usual): Promise<void> {
		const step = this.step;
		if (!step || !text || !(await session.signed())) return;
		const next = this.steps[this.at + 1]?.setting ?? '';
		try {
			this.took(
				await answer(
					api.PUT('/api/lines/{line_id}/keypad/{setting}', {
						params: { path: { line_id: this.line.id, setting: step.setting } },
						body: {
							text,
							seen: step[this.moment],
							moment: this.moment,
							language: this.language,
							by: session.by
						}
					})
				)
			);
			if (next) this.go(next);
			else this.go(step.setting);
			await this.line.refresh();
		} catch (error) {
			this.problem = (error as Error).message;
			if (error instanceof ApiProblem && error.status === 409) await this.load();
		}
	}
}

/** Whether a parameter was read back as it is wanted. */
export function isDone(step: Key): boolean {
	return step.verdict === 'same' || step.verdict === 'decided';
}

/** The mark of a parameter in the list. */
export function markOf(step: Key): string {
	if (isDone(step)) return 'clear';
	return step.verdict === 'differs' || step.problem
		? 'stop'
		: step.verdict === 'taken'
			? 'caution'
			: 'unknown';
}
