<script lang="ts">
	/** What the value of a setting does that is there, what was decided and why, else why it is proposed. */
	import type { Schemas } from '../api/client';
	import Mark from '../components/Mark.svelte';
	import Sentence from '../components/Sentence.svelte';
	import { session } from '../session.svelte';
	import { moment, sourceOf } from '../words';

	let {
		row,
		open,
		take
	}: {
		row: Schemas['SettingView'];
		open: (key: string) => void;
		/** Enter the proposed value as left. */
		take: () => void;
	} = $props();

	const effect = $derived(
		row.effect && (row.verdict !== 'same' || row.effect.severity !== 'clear') ? row.effect : null
	);
	const decided = $derived(row.decided !== null);
</script>

{#if effect}
	<p class="effect" data-severity={effect.severity}>
		<Mark severity={effect.severity as 'stop'} />
		<b>{decided && effect.severity === 'clear' ? 'As decided' : effect.title}.</b>
		<Sentence parts={effect.because} {open} />
	</p>
{/if}
{#if decided}
	<p>
		“{row.decided_why}” {row.decided_by}{row.decided_at ? `, ${moment(row.decided_at)}` : ''}.
	</p>
{/if}
{#if row.elsewhere}<p>In force by the run sheet: {row.elsewhere}.</p>{/if}
{#if row.taken}<p class="taken">Taken as planned by {row.left_by}, not read back.</p>{/if}
{#if effect && effect.severity !== 'clear' && row.verdict === 'differs'}
	<button type="button" class="link" onclick={take}>Set what is {decided ? 'decided' : 'proposed'}</button>
{/if}
{#if !effect && !decided}
	<p><Sentence parts={row.reason} {open} /> <small>{session.words(sourceOf(row.source))}</small></p>
{/if}

<style>
	p {
		margin: 0 0 2px;
	}
	.effect {
		color: var(--ink);
	}
	.effect :global(svg) {
		width: 13px;
		height: 13px;
		vertical-align: -2px;
	}
	.taken {
		color: var(--caution);
	}
	small {
		color: var(--ink-3);
		display: block;
	}
	.link {
		color: var(--steel);
		font-weight: 650;
		min-height: 32px;
		text-align: left;
	}
</style>
