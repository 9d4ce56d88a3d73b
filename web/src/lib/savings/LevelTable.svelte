<script lang="ts">
	/** Each flow level both ways, and the year below. */
	import type { Schemas } from '../api/client';
	import Num from '../components/Num.svelte';
	import { session } from '../session.svelte';

	let { savings, fan, open }: { savings: Schemas['SavingsView']; fan: boolean; open: (key: string) => void } =
		$props();

	const figures = $derived(savings.figures);
	const totalHours = $derived(savings.levels.reduce((sum, l) => sum + l.hours.value, 0));
</script>

<section class="sheet">
	<table>
		<thead>
			<tr>
				<th>Flow {session.units.symbol(fan ? 'air_flow' : 'flow', session.system)}</th>
				<th>Hours a year</th>
				<th>Throttled kW</th>
				<th>Slowed kW</th>
				<th>Speed Hz</th>
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
					<td><Num figure={level.hours} unit={false} /></td>
					<td><Num figure={level.throttled_input} unit={false} {open} /></td>
					<td><Num figure={level.input} unit={false} {open} /></td>
					<td><Num figure={level.frequency} unit={false} {open} /></td>
					<td><Num figure={level.motor_efficiency} {open} /></td>
					<td><Num figure={level.drive_efficiency} {open} /></td>
					<td class:loss={level.saved.value < 0}
						><Num figure={level.saved} unit={false} digits={3} {open} /></td
					>
					<td class="quiet"><Num figure={level.cube_saved} unit={false} digits={3} {open} /></td>
				</tr>
			{/each}
			<tr class="sum">
				<td>All</td>
				<td class="num">{session.units.number(totalHours, 'hours', session.system)}</td>
				<td
					>{#if figures['throttled']}<Num figure={figures['throttled']} digits={3} {open} />{/if}</td
				>
				<td
					>{#if figures['slowed']}<Num figure={figures['slowed']} digits={3} {open} />{/if}</td
				>
				<td></td><td></td><td></td>
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
		margin-top: 12px;
	}
</style>
