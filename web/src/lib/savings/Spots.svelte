<script lang="ts">
	/** The saving by spot readings: power read then and now at single duties, over hours that nobody measured. */
	import type { Schemas } from '../api/client';
	import EntryToggle from '../components/EntryToggle.svelte';
	import Facts from '../components/Facts.svelte';
	import Fields from '../components/Fields.svelte';
	import Num from '../components/Num.svelte';
	import { session } from '../session.svelte';

	let { savings, open }: { savings: Schemas['SavingsView']; open: (key: string) => void } = $props();
	const spots = $derived(savings.spots);
	const f = $derived(spots?.figures ?? {});
	let entering = $state(false);
	const show = $derived(entering || !spots);
</script>

{#if spots}
	<div class="two" data-folds style:--wide="330px" style:gap="24px">
		<section>
			<h2>By spot readings</h2>
			<p class="big">
				{#if f['saved']}<b><Num figure={f['saved']} rough digits={3} {open} /></b>{/if} a year ±
				{#if f['half']}<Num figure={f['half']} rough digits={2} {open} />{/if} at {(
					spots.confidence * 100
				).toFixed(0)} %, over {session.show(spots.seconds, 'hours')} of {session.show(
					spots.seconds_all,
					'hours'
				)}
			</p>
			<table class="ledger">
				<thead
					><tr
						><th class="right">Flow</th><th class="right">Hours a year</th><th class="right">Before</th><th
							class="right">Now</th
						></tr
					></thead
				>
				<tbody>
					{#each spots.levels as level, i (i)}
						<tr>
							<td class="right"><Num figure={level.flow} {open} /></td>
							<td class="right"><Num figure={level.hours} unit={false} {open} /></td>
							{#if level.before && level.now}
								<td class="right"><Num figure={level.before} {open} /></td><td class="right"
									><Num figure={level.now} {open} /></td
								>
							{:else}<td colspan="2" class="why">Not claimed: {session.words(level.why)}</td>{/if}
						</tr>
					{/each}
				</tbody>
			</table>
		</section>
		<aside>
			<h2>How sure</h2>
			<Facts
				{open}
				rows={spots.parts.map((p) => ({ label: p.name, figure: p.energy, note: 'standard uncertainty' }))}
			/>
			{#if spots.instruments}<p class="say">{spots.instruments}</p>{/if}
			<p class="say">
				Power was measured, the hours were not: what the guidelines call option A. A log of both would carry
				more.
			</p>
			<EntryToggle bind:entering words="Readings and meters" />
		</aside>
	</div>
{:else}
	<h2>By spot readings</h2>
	<p class="say">
		{savings.spots_missing ? `${session.words(savings.spots_missing)}. ` : ''}Read power and flow at two
		duties or more, before the change and now. A level at whose flow nothing was read is not claimed.
	</p>
{/if}
{#if show}<div class="fields"><Fields group="proof" tabs={['Spot readings', 'Meters']} /></div>{/if}

<style>
	.big {
		font-size: var(--t3);
		padding: 4px 0 8px;
	}
	.big b {
		font-size: var(--t5);
		font-weight: 650;
	}
	table {
		table-layout: fixed;
	}
	aside .say {
		padding: 8px 0;
	}
	.why {
		font-size: var(--t2);
		color: var(--ink-3);
	}
</style>
