<script lang="ts">
	/** Each flow level both ways, the year below, and what is not claimed. */
	import type { Schemas } from '../api/client';
	import Num from '../components/Num.svelte';
	import { session } from '../session.svelte';

	let { savings, fan, open }: { savings: Schemas['SavingsView']; fan: boolean; open: (key: string) => void } =
		$props();

	const figures = $derived(savings.figures);
	const several = $derived(savings.levels.some((l) => l.machines > 1 || l.share < 0.999));
</script>

<section class="sheet">
	<table class="ledger">
		<thead>
			<tr>
				<th class="right">Flow {session.units.symbol(fan ? 'air_flow' : 'flow', session.system)}</th>
				<th class="right">Hours a year</th>
				<th class="right">Before kW</th>
				<th class="right">Now kW</th>
				<th class="right">Speed Hz</th>
				{#if several}<th class="right">Running</th>{/if}
				<th class="right">Motor</th>
				<th class="right">Drive</th>
				<th class="right">Saved kWh</th>
				<th class="right">Cube law says</th>
			</tr>
		</thead>
		<tbody>
			{#each savings.levels as level, i (i)}
				<tr>
					<td class="right"><Num figure={level.flow} unit={false} {open} /></td>
					<td class="right"><Num figure={level.hours} unit={false} {open} /></td>
					<td class="right"><Num figure={level.before} unit={false} {open} /></td>
					<td class="right"><Num figure={level.now} unit={false} {open} /></td>
					<td class="right"><Num figure={level.frequency} unit={false} {open} /></td>
					{#if several}<td class="num right"
							>{level.machines}{level.share < 0.999 ? `, ${(level.share * 100).toFixed(0)} %` : ''}</td
						>{/if}
					<td class="right"><Num figure={level.motor_efficiency} {open} /></td>
					<td class="right"><Num figure={level.drive_efficiency} {open} /></td>
					<td class="right" class:loss={level.saved.value < 0}
						><Num figure={level.saved} unit={false} digits={3} {open} /></td
					>
					<td class="quiet right"><Num figure={level.cube_saved} unit={false} digits={3} {open} /></td>
				</tr>
			{/each}
			{#each savings.refused as left, i (i)}
				<tr class="quiet">
					<td class="right"><Num figure={left.flow} unit={false} {open} /></td>
					<td class="right"><Num figure={left.hours} unit={false} {open} /></td>
					<td colspan={several ? 8 : 7} class="why">Not claimed: {session.words(left.why)}</td>
				</tr>
			{/each}
			<tr class="sum">
				<td class="right">All</td>
				<td
					>{#if figures['hours']}<Num figure={figures['hours']} unit={false} {open} />{/if}</td
				>
				<td
					>{#if figures['before']}<Num figure={figures['before']} digits={3} {open} />{/if}</td
				>
				<td
					>{#if figures['now']}<Num figure={figures['now']} digits={3} {open} />{/if}</td
				>
				<td colspan={several ? 4 : 3}></td>
				<td
					>{#if figures['saved']}<Num figure={figures['saved']} unit={false} digits={3} {open} />{/if}</td
				>
				<td class="quiet"
					>{#if figures['cube_saved']}<Num
							figure={figures['cube_saved']}
							unit={false}
							digits={3}
							{open}
						/>{/if}</td
				>
			</tr>
		</tbody>
	</table>
	{#if savings.rest > 3600}
		<p class="say rest">
			The other {session.show(savings.rest, 'hours')} of the year are taken as standing still, before and now: nothing
			is claimed of them.
		</p>
	{/if}
</section>

<style>
	.why {
		font-size: var(--t2);
	}
	table :is(td, th):first-child {
		padding-left: 12px;
	}
	.sum td {
		text-align: right;
		font-weight: 650;
		border: 0;
	}
	.quiet {
		color: var(--ink-3);
	}
	.loss {
		color: var(--stop);
	}
	.sheet {
		margin-top: 10px;
		overflow-x: auto;
	}
	.rest {
		padding: 0 12px 8px;
	}
</style>
