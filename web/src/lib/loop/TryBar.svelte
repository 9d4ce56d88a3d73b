<script lang="ts">
	/** What is asked of the plant, what goes wrong meanwhile, and the runs kept to compare with. */
	import { answer, api } from '../api/client';
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';

	let { bench }: { bench: LoopBench } = $props();

	const loop = $derived(bench.loop);
	const MISHAPS = [
		['', 'Nothing'],
		['lost', 'The wire breaks'],
		['dry', 'It runs dry'],
		['filling', 'Empty at first'],
		['second', 'Second setpoint'],
		['coast', 'It coasts to stop']
	] as const;
	const possible = $derived<Record<string, boolean | undefined>>({
		'': true,
		lost: loop?.loops,
		second: loop?.two_setpoints,
		coast: loop?.plant === 'open',
		dry: loop?.plant === 'header' && loop.flow_dimension === 'flow',
		filling: loop?.plant === 'header' && loop.flow_dimension === 'flow'
	});
	const mishaps = $derived(MISHAPS.filter(([id]) => possible[id]));
	let text = $state('');
	let problem = $state('');
	let telling = $state(false);

	function choose(id: string): void {
		telling = id === 'own';
		if (telling) return;
		bench.own = [];
		bench.profile = id;
		bench.spread = null;
	}

	async function load(event: Event): Promise<void> {
		const file = (event.currentTarget as HTMLInputElement).files?.[0];
		if (!file) return;
		text = await file.text();
		await tell();
	}

	async function tell(): Promise<void> {
		try {
			bench.own = (await answer(api.POST('/api/loop/demand', { body: { text } }))) as [number, number][];
			bench.spread = null;
			problem = '';
		} catch (error) {
			problem = (error as Error).message;
		}
	}
	const chosen = $derived(telling || bench.own.length ? 'own' : bench.profile);
</script>

<div class="bar">
	<label
		>Asked of it
		<select class="field" value={chosen} onchange={(event) => choose(event.currentTarget.value)}>
			{#each loop?.profiles ?? [] as profile (profile.id)}<option value={profile.id}>{profile.label}</option
				>{/each}
			<option value="own">Your own …</option>
		</select></label
	>
	{#if mishaps.length > 1}
		<label
			>Meanwhile
			<select
				class="field"
				value={bench.mishap}
				onchange={(event) => (bench.mishap = event.currentTarget.value as typeof bench.mishap)}
			>
				{#each mishaps as [id, label] (id)}<option value={id}>{label}</option>{/each}
			</select></label
		>
	{/if}
	<button
		type="button"
		class="act"
		data-quiet
		disabled={bench.kept.length >= 3 || !loop?.times.length}
		onclick={() => bench.keep()}>Keep to compare</button
	>
	{#each bench.kept as kept, i (i)}
		<span class="kept" data-dash={i}
			><svg width="26" height="8" aria-hidden="true"><path d="M0 4H26" /></svg>{kept.name}
			<button type="button" aria-label="Let go of {kept.name}" onclick={() => bench.drop(kept)}>×</button
			></span
		>
	{/each}
</div>
{#if telling}
	<div class="own">
		<label for="demand"
			>Time in s and demand in % of full, a row each, or pasted from a table; each holds till the next</label
		>
		<textarea id="demand" class="field" rows="4" bind:value={text} placeholder="0 40&#10;120 70&#10;300 5"
		></textarea>
		<span
			><button type="button" class="act" onclick={() => void tell()}>Try it</button>
			<input
				type="file"
				accept=".csv,.txt,text/csv"
				aria-label="Open a demand"
				onchange={(event) => void load(event)}
			/></span
		>
		{#if problem}<p class="problem" role="alert">{session.words(problem)}</p>{/if}
	</div>
{/if}

<style>
	.bar {
		display: contents;
	}
	label {
		display: grid;
		gap: 2px;
		font-size: var(--t1);
		color: var(--ink-3);
	}
	select.field {
		font: 600 var(--t3) var(--sans);
		min-height: 36px;
		max-width: 170px;
	}
	.kept {
		display: inline-flex;
		align-items: center;
		gap: 6px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.kept path {
		stroke: var(--ink);
		stroke-width: 2;
		stroke-dasharray: 7 4;
	}
	.kept[data-dash='1'] path {
		stroke-dasharray: 2 3;
	}
	.kept[data-dash='2'] path {
		stroke-dasharray: 10 3 2 3;
	}
	.kept button {
		border: 0;
		background: none;
		color: var(--steel);
		font-size: var(--t4);
		min-width: 32px;
		min-height: 32px;
		cursor: pointer;
	}
	.own {
		display: grid;
		gap: 6px;
		justify-items: start;
		flex-basis: 100%;
	}
	.own textarea {
		width: 100%;
		font-size: var(--t3);
	}
</style>
