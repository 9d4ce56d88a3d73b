<script lang="ts">
	/** The loop bench: ten minutes at the tap, the curves, and what they mean; every value can be moved. */
	import { answer, api, ApiProblem, type Schemas } from '$lib/api/client';
	import CurveChart from '$lib/components/CurveChart.svelte';
	import Mark from '$lib/components/Mark.svelte';
	import Num from '$lib/components/Num.svelte';
	import Sentence from '$lib/components/Sentence.svelte';
	import Trace from '$lib/components/Trace.svelte';
	import { openLine } from '$lib/line/context';
	import { session } from '$lib/session.svelte';

	type Name = keyof Schemas['TuningView'];

	const line = openLine();
	let loop = $state.raw<Schemas['LoopView'] | null>(null);
	const sentence = (text: string) => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}.`;

	/** Only a pump that holds a pressure is tried here; the other loops begin from the sheet. */
	const tries = $derived(
		line.assessment === null ||
			line.assessment.traits.includes('rests') ||
			!line.assessment.traits.some((trait) => trait.startsWith('holds:'))
	);
	let tried = $state<Partial<Record<Name, number>>>({});
	let texts = $state<Partial<Record<Name, string>>>({});
	let problem = $state('');
	let asking: AbortController | undefined;

	const ROWS: { group: string; rows: { name: Name; label: string; dimension: string; hint?: string }[] }[] = [
		{
			group: 'Controller',
			rows: [
				{ name: 'setpoint', label: 'Setpoint', dimension: 'pressure' },
				{ name: 'gain', label: 'Gain', dimension: 'ratio', hint: '% of speed per % of range' },
				{ name: 'integral_time', label: 'Integral time', dimension: 'time' }
			]
		},
		{
			group: 'Rest at no demand',
			rows: [
				{ name: 'low_limit', label: 'Low limit', dimension: 'frequency', hint: 'hold + 1 Hz' },
				{ name: 'sleep_below', label: 'Sleep below', dimension: 'frequency' },
				{ name: 'sleep_delay', label: 'Sleep delay', dimension: 'time' },
				{ name: 'boost', label: 'Boost before sleep', dimension: 'pressure' },
				{ name: 'wake_at', label: 'Wake at', dimension: 'pressure' }
			]
		},
		{
			group: 'Ramps, 0 to full',
			rows: [
				{ name: 'ramp_up', label: 'Up', dimension: 'time' },
				{ name: 'ramp_down', label: 'Down', dimension: 'time' }
			]
		}
	];

	$effect(() => {
		const body = {
			record: line.record,
			site_id: line.line?.site_id ?? null,
			tried: { ...tried }
		};
		asking?.abort();
		asking = new AbortController();
		answer(api.POST('/api/loop', { body, signal: asking.signal }))
			.then((found) => {
				loop = found;
				problem = '';
			})
			.catch((error: unknown) => {
				if (error instanceof ApiProblem) problem = error.message;
			});
	});

	function move(name: Name, text: string, dimension: string): void {
		texts[name] = text;
		if (!text.trim()) {
			delete tried[name];
			return;
		}
		const read = session.units.parse(text, dimension, session.system);
		if (typeof read === 'number') tried[name] = read;
		else problem = `${text}: ${read}`;
	}

	function slide(value: number): void {
		delete texts.setpoint;
		tried.setpoint = value;
	}

	async function use(): Promise<void> {
		const tuning = loop?.tuning;
		if (!tuning) return;
		const kept: [string, number][] = [
			['control.setpoint', tuning.setpoint],
			['control.gain', tuning.gain],
			['control.integral_time', tuning.integral_time],
			['control.low_limit', tuning.low_limit],
			['control.sleep_below', tuning.sleep_below],
			['control.sleep_delay', tuning.sleep_delay],
			['control.boost', tuning.boost],
			['control.ramp_up', tuning.ramp_up],
			['control.ramp_down', tuning.ramp_down]
		];
		for (const [path, value] of kept) line.set(path, Number(value.toPrecision(5)));
		tried = {};
		texts = {};
		await line.flush();
	}

	const hold = $derived(loop?.figures['hold_frequency']);
	const moved = $derived(Object.keys(tried).length > 0);
	/** The working of a figure of this trial: with the values being tried. */
	function open(key: string): void {
		session.working = answer(
			api.POST('/api/working', {
				body: {
					record: tried.setpoint === undefined ? line.record : withSetpoint(tried.setpoint),
					site_id: line.line?.site_id ?? null,
					key,
					tried: { ...tried }
				}
			})
		);
	}

	function withSetpoint(value: number): typeof line.record {
		return { ...line.record, control: { ...(line.record['control'] ?? {}), setpoint: { value } } };
	}

	const FIGURES = [
		['setpoint_head', 'Head at the setpoint'],
		['duty_flow', 'Duty point, full speed'],
		['hold_speed', 'Speed ratio that only holds'],
		['hold_frequency', 'Holds at no flow'],
		['low_limit', 'Predicted low limit'],
		['sleep_below', 'Predicted sleep frequency']
	] as const;
</script>

<div class="two">
	<main>
		<header>
			<h2>Ten minutes at the tap</h2>
			<span class="say">demand falls, ends, a leak remains, then much is drawn</span>
			<span class="gap"></span>
			{#if moved}<button
					class="act"
					data-quiet
					onclick={() => {
						tried = {};
						texts = {};
					}}>Back to the plan</button
				>{/if}
			<button class="act" onclick={use} disabled={!loop || loop.missing !== ''}>Use these settings</button>
		</header>
		{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
		<section class="sheet trace">
			{#if loop && loop.times.length}<Trace {loop} />
			{:else}<p class="say pad">{loop ? sentence(loop.missing) : 'Running the loop …'}</p>{/if}
		</section>
		<div class="lower">
			<section class="sheet curve">
				{#if loop && loop.curves.machine.length}<CurveChart curves={loop.curves} />
				{:else}<p class="say pad">{loop?.curves.missing}</p>{/if}
			</section>
			<section class="sheet meaning">
				<h2>What it means</h2>
				{#each loop?.meaning ?? [] as said, i (i)}
					<p data-severity={said.severity}>
						<Mark severity={said.severity} named />
						<span
							><b>{said.title}.</b>
							<Sentence parts={said.because} {open} />
							{#if said.do.length}<em><Sentence parts={said.do} {open} /></em>{/if}</span
						>
					</p>
				{/each}
			</section>
		</div>
	</main>
	<aside>
		<h2>{tries ? 'Settings tried' : 'Of this line'}</h2>
		{#each tries ? ROWS : [] as group (group.group)}
			<h3>{group.group}</h3>
			{#each group.rows as row (row.name)}
				<label class="row" data-moved={tried[row.name] !== undefined}>
					<span
						>{row.label}{#if row.hint}<small>{row.hint}</small>{/if}</span
					>
					<span class="box"
						><input
							class="field"
							inputmode="decimal"
							aria-label={row.label}
							value={texts[row.name] ??
								(loop && loop.times.length
									? session.units.number(loop.tuning[row.name], row.dimension, session.system, undefined, 4)
									: '')}
							oninput={(event) => move(row.name, event.currentTarget.value, row.dimension)}
						/><i>{session.units.symbol(row.dimension, session.system)}</i></span
					>
				</label>
				{#if row.name === 'setpoint' && loop && loop.times.length}
					<input
						class="slider"
						type="range"
						aria-label="Setpoint, slide"
						min={loop.tuning.setpoint > 0 ? 50_000 : 0}
						max={Math.max(loop.tuning.setpoint * 1.2, 600_000)}
						step="5000"
						value={loop.tuning.setpoint}
						oninput={(event) => slide(Number(event.currentTarget.value))}
					/>
				{/if}
			{/each}
		{/each}
		<h3>From the model</h3>
		{#each FIGURES as [name, label] (name)}
			{@const figure = loop?.figures[name]}
			<p class="row">
				<span>{label}</span>
				{#if figure}<span class="num"><Num {figure} {open} /></span>{:else}<small>not known yet</small>{/if}
			</p>
		{/each}
		{#if hold}<p class="say">
				At no demand the drive settles at <Num figure={hold} {open} />; read it on site and set the limits by
				what you read.
			</p>{/if}
	</aside>
</div>

<style>
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 318px;
		min-height: 0;
	}
	main {
		padding: 12px 18px 20px;
		overflow: auto;
		position: relative;
	}
	header {
		display: flex;
		align-items: center;
		gap: 12px;
	}
	.gap {
		flex: 1;
	}
	.trace {
		margin-top: 8px;
		padding: 4px 0;
	}
	.lower {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
		gap: 12px;
		margin-top: 12px;
	}
	.curve {
		padding: 4px 0;
	}
	.meaning {
		padding: 10px 14px;
	}
	.meaning p {
		display: flex;
		gap: 8px;
		padding: 7px 0;
		border-bottom: 1px solid var(--rule);
		font-size: 14px;
		color: var(--ink-2);
		line-height: 1.35;
	}
	.meaning p > :global(svg) {
		margin-top: 2px;
	}
	.meaning p[data-severity='caution'] b,
	.meaning p[data-severity='stop'] b {
		color: var(--tone);
	}
	em {
		font-style: normal;
		font-weight: 600;
		color: var(--steel);
	}
	.pad {
		padding: 20px;
	}
	aside {
		border-left: 1px solid var(--rule);
		background: var(--sheet);
		padding: 12px 16px 24px;
		overflow: auto;
		position: relative;
	}
	aside h3 {
		margin-top: 10px;
	}
	.row {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 8px;
		padding: 3px 0;
		min-height: 36px;
		border-bottom: 1px solid var(--rule);
		font-size: 14px;
	}
	.row[data-moved='true'] {
		box-shadow: -8px 0 0 -5px var(--brass);
	}
	small {
		display: block;
		font-size: 12px;
		color: var(--ink-3);
	}
	.box {
		display: inline-flex;
		align-items: center;
		gap: 6px;
	}
	.box i {
		font-style: normal;
		font-size: 12.5px;
		color: var(--ink-3);
		min-width: 24px;
	}
	.field {
		width: 92px;
		text-align: right;
		min-height: 30px;
		padding: 3px 8px;
		font-size: 15px;
	}
	.slider {
		width: 100%;
		min-height: 28px;
		accent-color: var(--steel);
	}
	.problem {
		color: var(--stop);
		font-weight: 600;
	}
	@media (max-width: 1000px) {
		.two {
			grid-template-columns: minmax(0, 1fr) 250px;
		}
		.lower {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
