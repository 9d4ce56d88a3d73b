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
	<table>
		<thead>
			<tr>
				<th>Flow {session.units.symbol(fan ? 'air_flow' : 'flow', session.system)}</th>
				<th>Hours a year</th>
				<th>Before kW</th>
				<th>Now kW</th>
				<th>Speed Hz</th>
				{#if several}<th>Running</th>{/if}
				<th>Motor</th>
				<th>Drive</th>
				<th>Saved kWh</th>
				<th>Cube law says</th>
			</tr>
		</thead>
		<tbody>
			{#each savings.levels as level, i (i)}
				<tr>
					<td><Num figure={level.flow} unit={false} {open} /></td>
					<td><Num figure={level.hours} unit={false} {open} /></td>
					<td><Num figure={level.before} unit={false} {open} /></td>
					<td><Num figure={level.now} unit={false} {open} /></td>
					<td><Num figure={level.frequency} unit={false} {open} /></td>
					{#if several}<td class="num"
							>{level.machines}{level.share < 0.999 ? `, ${(level.share * 100).toFixed(0)} %` : ''}</td
						>{/if}
					<td><Num figure={level.motor_efficiency} {open} /></td>
					<td><Num figure={level.drive_efficiency} {open} /></td>
					<td class:loss={level.saved.value < 0}
						><Num figure={level.saved} unit={false} digits={3} {open} /></td
					>
					<td class="quiet"><Num figure={level.cube_saved} unit={false} digits={3} {open} /></td>
				</tr>
			{/each}
			{#each savings.refused as left, i (i)}
				<tr class="quiet">
					<td><Num figure={left.flow} unit={false} {open} /></td>
					<td><Num figure={left.hours} unit={false} {open} /></td>
					<td colspan={several ? 8 : 7} class="why">Not claimed: {session.words(left.why)}</td>
				</tr>
			{/each}
			<tr class="sum">
				<td>All</td>
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
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: 14.5px;
	}
	th {
		font-size: 12.5px;
		font-weight: 600;
		color: var(--ink-3);
		text-align: right;
		padding: 10px 12px 6px;
		border-bottom: 1.5px solid var(--ink);
	}
	td {
		text-align: right;
		padding: 6px 12px;
		border-bottom: 1px solid var(--rule);
	}
	.why {
		text-align: left;
		font-size: 13.5px;
	}
	.sum td {
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
