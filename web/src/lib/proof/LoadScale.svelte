<script lang="ts">
	/** The motor's load three ways on one scale, and the one estimate made of them. */
	import type { Schemas } from '../api/client';
	import Num from '../components/Num.svelte';
	import { session } from '../session.svelte';

	let { proof, open }: { proof: Schemas['ProofView']; open: (key: string) => void } = $props();

	const SCALE = 1.3; // the bar ends at 130 % load
	const place = (value: number) => `${Math.min(100, (value / SCALE) * 100)}%`;
</script>

<h2>How hard the motor works</h2>
{#if proof.best && proof.low && proof.high}
	<p class="best" data-contradict={proof.contradict}>
		<b><Num figure={proof.best} {open} /></b> of full load, between <Num figure={proof.low} {open} /> and
		<Num figure={proof.high} {open} /> at 95 %. {proof.trusted}
	</p>
{/if}
<div class="scale" aria-hidden="true">
	<span style:left={place(0.5)}>50 %</span><span style:left={place(1)}>100 %</span>
</div>
{#each proof.estimates as estimate (estimate.id)}
	<article>
		<h3>{estimate.title}</h3>
		{#if estimate.load && estimate.low && estimate.high}
			<p class="load"><Num figure={estimate.load} {open} /></p>
			<div class="bar" role="img" aria-label="{estimate.title}: between the bounds">
				<i class="full" style:left={place(1)}></i>
				<i
					class="band"
					style:opacity={0.25 + 0.5 * estimate.share}
					style:left={place(estimate.low.value)}
					style:width="calc({place(estimate.high.value)} - {place(estimate.low.value)})"
				></i>
				<i class="point" style:left={place(estimate.load.value)}></i>
			</div>
			<p class="say">
				<Num figure={estimate.low} {open} /> to <Num figure={estimate.high} {open} />, weight {(
					estimate.share * 100
				).toFixed(0)} %. {estimate.worth}
			</p>
		{:else}
			<p class="say">{session.words(estimate.missing)}. {estimate.worth}</p>
		{/if}
	</article>
{/each}

<style>
	.best {
		font-size: var(--t3);
		margin: 4px 0 2px;
	}
	.best b {
		font-size: var(--t5);
		font-weight: 650;
	}
	.best[data-contradict='true'] {
		color: var(--caution);
	}
	.scale {
		position: relative;
		height: 18px;
		margin: 8px 0 0 190px;
		font: var(--t1) var(--mono);
		color: var(--ink-3);
	}
	.scale span {
		position: absolute;
		transform: translateX(-50%);
	}
	article {
		display: grid;
		grid-template-columns: 90px 100px minmax(0, 1fr);
		align-items: center;
		padding: 8px 0;
		border-bottom: 1px solid var(--rule);
	}
	article h3 {
		font-size: var(--t3);
		color: var(--ink);
	}
	.load {
		font-size: var(--t4);
		font-weight: 650;
	}
	.bar {
		position: relative;
		height: 20px;
		background: var(--well);
		border-radius: var(--r);
	}
	.bar i {
		position: absolute;
		top: 0;
		bottom: 0;
	}
	.band {
		background: var(--steel);
	}
	.point {
		width: 3px;
		margin-left: -1.5px;
		background: var(--ink);
	}
	.full {
		width: 0;
		border-left: 1.5px dashed var(--stop);
	}
	article .say {
		grid-column: 2 / 4;
		margin-top: 4px;
	}
	@media (max-width: 600px) {
		.scale {
			margin-left: 0;
		}
		article {
			grid-template-columns: 90px 1fr;
		}
		.bar,
		article .say {
			grid-column: 1 / 3;
		}
	}
</style>
