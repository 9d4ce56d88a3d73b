<script lang="ts">
	/** Before and now as they were logged, what they carry at the same flows, and what they do not. */
	import Fields from '../components/Fields.svelte';
	import Num from '../components/Num.svelte';
	import type { LinePage } from '../line/line-page.svelte';
	import { session } from '../session.svelte';
	import ClaimPane from './ClaimPane.svelte';
	import FitChart from './FitChart.svelte';
	import LogChart from './LogChart.svelte';
	import LogList from './LogList.svelte';
	import { MeasuredPage } from './measured-page.svelte';
	import ReadLog from './ReadLog.svelte';

	let { line, open }: { line: LinePage; open: (key: string) => void } = $props();
	const page = $derived(new MeasuredPage(line));
	let settings = $state(false);

	$effect(() => {
		void line.version;
		return page.load();
	});

	const view = $derived(page.view);
	const claim = $derived(view?.claim);
	const figures = $derived(claim?.figures ?? {});
	const shown = $derived((view?.logs ?? []).filter((log) => !log.aside));

	function taken(event: Event): void {
		const input = event.currentTarget as HTMLInputElement;
		const file = input.files?.[0];
		if (file) void page.open(file);
		input.value = '';
	}
</script>

<div class="two whole" data-folds style:--wide="330px">
	<div class="main">
		<div class="big">
			{#if claim?.holds && figures['saved']}
				<div>
					<b><Num figure={figures['saved']} unit={false} rough digits={3} {open} /></b>
					<span>kWh a year saved, measured</span>
					<p class="say">
						± {#if figures['half']}<Num figure={figures['half']} rough digits={2} {open} />{/if} at {(
							claim.confidence * 100
						).toFixed(0)} %, {claim.words}
					</p>
				</div>
				{#if view?.modelled != null}
					<div>
						<b class="num">{session.rough(view.modelled, 'energy', 3)}</b>
						<span>modelled</span>
						<p class="say">
							over the same hours, {view.agrees ? 'inside' : 'outside'} it
						</p>
					</div>
				{/if}
			{:else}
				<h2>
					{!view
						? page.problem
							? ''
							: 'Looking at the logs …'
						: view.logs.length
							? 'Not enough to claim'
							: 'No log yet'}
				</h2>
			{/if}
			<span class="gap"></span>
			<label class="act"
				>Read a log<input
					type="file"
					accept=".csv,.txt,.tsv,.dat,.xlsx,.parquet,.xml,text/csv"
					onchange={taken}
				/></label
			>
			<button
				type="button"
				class="act"
				data-quiet
				aria-expanded={settings}
				onclick={() => (settings = !settings)}>{settings ? 'Hide how' : 'How compared'}</button
			>
		</div>
		{#if page.problem}<p class="problem" role="alert">{session.words(page.problem)}</p>{/if}
		<ReadLog {page} />
		{#if settings}<section class="sheet how">
				<Fields group="proof" tabs={['Compared', 'Meters', 'What was there before']} />
			</section>{/if}
		{#if shown.length}
			<section class="sheet chart"><LogChart logs={shown} lineId={line.id} /></section>
		{/if}
		<div class="pair">
			{#if claim?.dimension}<section class="sheet chart"><FitChart {claim} /></section>{/if}
			{#if view?.logs.length}<section class="sheet chart"><LogList {page} /></section>{/if}
		</div>
	</div>
	<aside><ClaimPane {page} {open} /></aside>
</div>

<style>
	.whole {
		height: 100%;
	}
	.main {
		padding: 10px 18px 24px;
		overflow: auto;
		position: relative;
	}
	.big {
		display: flex;
		align-items: start;
		gap: 6px 18px;
		flex-wrap: wrap;
	}
	.big b {
		font-size: var(--t6);
		line-height: 1.1;
		font-weight: 650;
	}
	.big span {
		color: var(--ink-2);
		font-weight: 600;
	}
	.gap {
		flex: 1;
	}
	.big .act {
		position: relative;
		overflow: hidden;
	}
	.big input {
		position: absolute;
		inset: 0;
		opacity: 0;
		cursor: pointer;
		font-size: 0;
	}
	.chart {
		padding: 10px 12px;
		margin-top: 10px;
		min-width: 0;
	}
	.how {
		padding: 4px 16px 12px;
		margin-top: 10px;
	}
	.pair {
		display: grid;
		grid-template-columns: minmax(0, 3fr) minmax(250px, 2fr);
		gap: 0 12px;
		align-items: start;
	}
	aside {
		border-left: 1px solid var(--rule);
		background: var(--sheet);
		padding: 12px 16px 24px;
		overflow: auto;
		position: relative;
	}
	.problem {
		padding: 6px 0;
	}
	@media (max-width: 1000px) {
		.whole {
			height: auto;
		}
		.main {
			overflow: visible;
		}
	}
	@media (max-width: 1000px) {
		.pair {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
