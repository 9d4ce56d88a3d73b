<script lang="ts">
	/** Where a year's energy goes, from the meter to the useful water, one bar a stage, losses beneath. */
	import type { Schemas } from '../api/client';
	import Num from './Num.svelte';

	let { chain, most, open }: { chain: Schemas['ChainView']; most: number; open: (key: string) => void } =
		$props();

	const stages = $derived.by(() => {
		let left = chain.taken.value;
		return chain.losses.map(({ name, energy }) => {
			left -= energy.value;
			return { name, energy, loss: energy.value, leaving: left };
		});
	});
	const share = $derived((value: number) => Math.max(0.01, value / most));
</script>

<div class="chain">
	<div class="head">
		<b>{chain.name}</b><span><Num figure={chain.taken} digits={3} {open} /></span>
	</div>
	{#each stages as stage, i (stage.name)}
		<div class="stage">
			<div class="bars">
				<div class="bar" style:--share={share(stage.leaving)} data-step={i}></div>
				<div class="loss" style:--share={share(stage.loss)}></div>
			</div>
			<p>
				<b>{stage.name}</b><span>−<Num figure={stage.energy} unit={false} digits={3} {open} /></span>
			</p>
		</div>
	{/each}
	<div class="stage">
		<div class="bars"><div class="bar useful" style:--share={share(chain.useful.value)}></div></div>
		<p>
			<b>useful</b><span><Num figure={chain.useful} unit={false} digits={3} {open} /></span>
		</p>
	</div>
</div>

<style>
	.chain {
		display: grid;
		grid-template-columns: 104px repeat(5, minmax(96px, 1fr));
		gap: 4px;
		align-items: start;
		padding-bottom: 14px;
	}
	.head b,
	.head span {
		display: block;
	}
	.head span {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.bar,
	.loss {
		height: calc(82px * var(--share));
	}
	.bar {
		background: var(--steel);
	}
	.bar[data-step='1'] {
		opacity: 0.86;
	}
	.bar[data-step='2'] {
		opacity: 0.72;
	}
	.bar[data-step='3'] {
		opacity: 0.6;
	}
	.useful {
		background: var(--clear);
	}
	.loss {
		background: repeating-linear-gradient(45deg, var(--rule-strong) 0 2px, var(--well) 2px 5px);
		width: 78%;
	}
	p {
		font-size: var(--t1);
		color: var(--ink-2);
		margin-top: 3px;
		display: flex;
		justify-content: space-between;
		padding-right: 12px;
	}
	p b {
		font-weight: 600;
		color: var(--ink);
	}
	/* narrow: the chain lies on its side, a row a stage */
	@media (max-width: 600px) {
		.chain {
			grid-template-columns: minmax(0, 1fr);
		}
		.bars {
			display: flex;
		}
		.bar,
		.loss {
			height: 16px;
			width: calc(100% * var(--share));
		}
		p {
			margin: 1px 0 6px;
			padding: 0;
		}
	}
</style>
