<script lang="ts">
	/** One line of the round: what it is, how far it has come, what it needs, and when somebody was there. */
	import Mark from '../components/Mark.svelte';
	import Stages from '../components/Stages.svelte';
	import { session } from '../session.svelte';
	import { clock, date } from '../words';
	import { stageInHand, stagesOf, type Line } from './round-page.svelte';

	let { line, stages }: { line: Line; stages: Record<string, string> } = $props();

	function when(at: string): string {
		const then = new Date(at);
		const days = Math.floor((Date.now() - then.getTime()) / 86_400_000);
		if (days < 1 && then.getDate() === new Date().getDate()) return `today ${clock(then)}`;
		return days < 2 ? 'yesterday' : date(then);
	}

	function inShort(of: Line): string {
		const parts = [];
		if (of.wanted !== null) parts.push(session.show(of.wanted, of.wanted_dimension));
		if (of.power !== null) parts.push(session.show(of.power, 'power'));
		return parts.join(', ');
	}
</script>

<a href="/line/{line.id}/{stageInHand(line, stages)}">
	<span class="tag"><b class="num">{line.tag}</b><small>{line.title}</small></span>
	<span><Stages stages={stagesOf(line, stages)} /><small>{line.words}</small></span>
	<span class="headline" data-severity={line.severity}
		><Mark severity={line.severity} /><em>{line.headline}</em
		>{#if line.behind && !line.headline.startsWith('To be put back')}<small>{line.behind} to put back</small
			>{/if}</span
	>
	<span class="say"
		>{inShort(line)}{#if line.measured !== null}<small>{session.show(line.measured, 'energy')} measured</small
			>{/if}</span
	>
	<span class="say when"
		>{when(line.updated_at)}{#if session.waiting[line.id]}<b>{session.waiting[line.id]} waiting to be sent</b
			>{/if}</span
	>
</a>

<style>
	a {
		display: grid;
		grid-template-columns: 180px 210px minmax(0, 1fr) 170px 112px;
		gap: 16px;
		align-items: center;
		padding: 8px 14px;
		min-height: 57px;
		color: inherit;
		text-decoration: none;
	}
	a:hover {
		background: var(--steel-wash);
	}
	.tag b {
		display: block;
		font-size: var(--t4);
		font-weight: 650;
	}
	small {
		font-size: var(--t1);
		color: var(--ink-3);
		display: block;
		margin-top: 3px;
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.tag {
		overflow: hidden;
	}
	.tag b {
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.headline {
		display: flex;
		gap: 7px;
		align-items: center;
		min-width: 0;
	}
	em {
		font-style: normal;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.headline[data-severity='stop'] em {
		color: var(--stop);
		font-weight: 600;
	}
	.when {
		text-align: right;
	}
	.when b {
		display: block;
		color: var(--caution);
	}
	@media (max-width: 600px) {
		a {
			grid-template-columns: minmax(0, 1fr) 110px !important;
			gap: 4px 12px;
		}
		a > .headline {
			grid-column: 1 / -1;
		}
	}
	@media (max-width: 1000px) {
		a {
			grid-template-columns: 150px 130px minmax(0, 1fr);
		}
		a > :nth-child(4),
		a > :nth-child(5) {
			display: none;
		}
	}
</style>
