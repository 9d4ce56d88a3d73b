<script lang="ts">
	/** A step test on site: pasted, read, its model laid over it, every rule beside the others; one is decided. */
	import { scaleLinear } from 'd3-scale';
	import { line as path } from 'd3-shape';
	import { answer, api, type Schemas } from '../api/client';
	import type { LinePage } from '../line/line-page.svelte';
	import { session } from '../session.svelte';
	import Rules from './Rules.svelte';

	let { line }: { line: LinePage } = $props();

	type Rule = Schemas['RuleView'];
	let text = $state('');
	let output = $state<'Hz' | '%'>('Hz');
	let seen = $state.raw<Schemas['StepTestView'] | null>(null);
	let taking = $state.raw<Rule | null>(null);
	let was = $state.raw<Record<string, number | string | null>>({});
	let said = $state('');
	let problem = $state('');
	let width = $state(700);
	const H = 190;
	/** Kind of quantity by what the line holds. */
	const HELD: Record<string, string> = {
		duct: 'air_pressure',
		level: 'head',
		temperature: 'temperature',
		flow: 'flow'
	};
	const held = $derived(
		HELD[line.assessment?.traits.find((t) => t.startsWith('holds:'))?.slice(6) ?? ''] ?? 'pressure'
	);

	async function read(): Promise<void> {
		taking = null;
		said = '';
		if (!text.trim()) return void (seen = null);
		try {
			seen = await answer(
				api.POST('/api/lines/{line_id}/step-test', {
					params: { path: { line_id: line.id } },
					body: { text, output }
				})
			);
			problem = '';
		} catch (error) {
			problem = (error as Error).message;
			seen = null;
		}
	}

	const x = $derived(scaleLinear([0, seen?.times.at(-1) ?? 1], [8, width - 8]));
	const all = $derived([...(seen?.values ?? []), ...(seen?.fitted ?? [])]);
	const y = $derived(scaleLinear([Math.min(...all), Math.max(...all)], [H - 46, 12]));
	const u = $derived(
		scaleLinear([Math.min(...(seen?.outputs ?? [0])), Math.max(...(seen?.outputs ?? [1]))], [H - 10, H - 34])
	);
	const drawn = (values: number[], place: (v: number) => number) =>
		path<number>(
			(_, i) => x(seen?.times[i] ?? 0),
			(v) => place(v)
		)(values) ?? '';
	const SETTINGS: [string, keyof Rule][] = [
		['pid.gain', 'gain'],
		['pid.integral_time', 'integral_time']
	];
	const round = (v: number) => Number(v.toPrecision(3)); // what a drive can hold

	async function ask(rule: Rule): Promise<void> {
		const sheet = await answer(
			api.GET('/api/lines/{line_id}/settings', { params: { path: { line_id: line.id } } })
		);
		was = Object.fromEntries(sheet.rows.map((r) => [r.id, r.left ?? r.decided ?? r.planned?.value ?? null]));
		taking = rule;
	}

	async function decide(): Promise<void> {
		const rule = taking;
		if (!rule || !(await session.signed())) return;
		try {
			for (const [setting, name] of SETTINGS)
				await answer(
					api.PUT('/api/lines/{line_id}/settings/{setting}/{moment}', {
						params: { path: { line_id: line.id, setting, moment: 'decided' } },
						body: {
							value: round(rule[name] as number),
							why: `Step test on site, ${rule.label}`,
							by: session.by
						}
					})
				);
			said = 'Decided. Set them in the drive, and read them back.';
			taking = null;
			await line.refresh();
		} catch (error) {
			problem = (error as Error).message;
		}
	}
	const time = (v: number) => session.show(v, 'time');
</script>

<div>
	<p class="say">Manual, one step of the speed, written down till it settles.</p>
	<div class="paste">
		<label for="steps"
			>Time, measured value in {session.units.symbol(held, session.system)}, output: paste the logger’s table,
			or type a row for each reading</label
		>
		<textarea id="steps" class="field" rows="4" bind:value={text} onchange={() => void read()}></textarea>
		<span role="group" aria-label="Output is in">
			{#each ['Hz', '%'] as const as unit (unit)}
				<button
					type="button"
					class="act"
					data-quiet={output === unit ? undefined : ''}
					aria-pressed={output === unit}
					onclick={() => {
						output = unit;
						void read();
					}}>Output in {unit}</button
				>
			{/each}
			<button type="button" class="act" onclick={() => void read()}>Read it</button>
		</span>
	</div>
	{#if problem}<p class="problem" role="alert">{session.words(problem)}</p>{/if}
	{#if seen}
		<div bind:clientWidth={width}>
			<svg {width} height={H} role="img" aria-label="Step test: value, model and output">
				<path d={drawn(seen.outputs, u)} class="out" />
				<path d={drawn(seen.values, y)} class="read" />
				{#if seen.fitted.length}<path d={drawn(seen.fitted, y)} class="model" />{/if}
			</svg>
		</div>
		{#if seen.refused}<p class="problem" role="alert">No use: {session.words(seen.refused)}</p>{/if}
		{#if seen.fit}
			{@const fit = seen.fit}
			<p>
				Gain <b class="num">{Math.abs(fit.process_gain).toPrecision(3)}</b> ± {fit.gain_within.toPrecision(2)} %
				of range per %, time constant <b class="num">{time(fit.time_constant)}</b> ± {time(
					fit.time_constant_within
				)}, dead time
				<b class="num">{time(fit.dead_time)}</b> ± {time(fit.dead_time_within)}; the model explains {(
					100 * fit.explained
				).toFixed(1)} %.{seen.turned ? ' More speed lowers it.' : ''}
				{fit.warnings.join(' ')}
			</p>
			{#if seen.opinions.length}<p class="say">
					By {seen.opinions
						.map((o) => `${o.way}: ${time(o.time_constant)} and ${time(o.dead_time)}`)
						.join('; by ')}. Far apart, the process is no first order: take the calmest rule.
				</p>{/if}
			<Rules rules={seen.rules} begin_with={seen.begin_with} take={(rule) => void ask(rule)} />
		{/if}
		{#if taking}
			<div class="take" role="alertdialog" aria-label="Decide these gains">
				{#each SETTINGS as [setting, name] (setting)}
					<span
						>{name === 'gain' ? 'Gain' : 'Integral time'}
						<span class="num"
							>{was[setting] === null || was[setting] === undefined
								? '–'
								: name === 'gain'
									? Number(was[setting]).toPrecision(3)
									: time(Number(was[setting]))}</span
						>
						→
						<b class="num">{name === 'gain' ? round(taking.gain) : time(round(taking.integral_time))}</b
						></span
					>
				{/each}
				<button type="button" class="act" onclick={() => void decide()}>Decide these</button>
				<button type="button" class="act" data-quiet onclick={() => (taking = null)}>No</button>
			</div>
		{/if}
		{#if said}<p class="say" role="status">{said}</p>{/if}
	{/if}
</div>

<style>
	.paste {
		display: grid;
		gap: 6px;
		margin: 8px 0;
	}
	label {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	textarea {
		font-size: var(--t2);
		width: 100%;
	}
	[role='group'] {
		display: flex;
		gap: 8px;
	}
	path {
		fill: none;
	}
	.read {
		stroke: var(--ink-3);
		stroke-width: 1.4;
	}
	.model {
		stroke: var(--brass);
		stroke-width: 2.4;
	}
	.out {
		stroke: var(--steel);
		stroke-width: 1.6;
	}
	.take {
		display: flex;
		flex-wrap: wrap;
		gap: 14px;
		align-items: center;
		margin-top: 10px;
		padding: 10px 14px;
		border: 1.5px solid var(--brass);
		border-radius: var(--r);
	}
</style>
