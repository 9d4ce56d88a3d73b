<script lang="ts">
	/** The seven stages as a scale of wound spring: done is solid, the turn in hand is brass. */
	import type { Schemas } from '../api/client';

	let {
		stages,
		href,
		current
	}: { stages: Schemas['StageView'][]; href?: (id: string) => string; current?: string } = $props();
</script>

{#if href}
	<nav aria-label="Stages of this line">
		{#each stages as stage (stage.id)}
			<a
				href={href(stage.id)}
				data-state={stage.state}
				aria-current={current === stage.id ? 'page' : undefined}
				title={stage.state === 'done' ? 'done' : stage.state === 'now' ? 'in hand' : 'not begun'}
				><span>{stage.label}</span></a
			>
		{/each}
	</nav>
{:else}
	<div class="bar" role="img" aria-label={stages.map((s) => `${s.label} ${s.state}`).join(', ')}>
		{#each stages as stage (stage.id)}<i data-state={stage.state}></i>{/each}
	</div>
{/if}

<style>
	nav {
		display: flex;
	}
	a {
		display: block;
		min-width: 69px;
		height: 38px;
		padding: 11px 5px 0 6px;
		font-size: var(--t2);
		color: var(--ink-2);
		text-decoration: none;
		border-top: 3px solid var(--rule);
		border-left: 1px solid var(--rule-strong);
		white-space: nowrap;
	}
	a[data-state='done'] {
		border-top-color: var(--clear);
	}
	a[data-state='now'] {
		border-top-color: transparent;
		background: repeating-linear-gradient(90deg, var(--brass-a) 0 6px, var(--brass-b) 6px 9px) 0 0 / 100% 3px
			no-repeat border-box;
	}
	a[aria-current] {
		color: var(--ink);
		font-weight: 650;
	}
	a:hover {
		color: var(--steel);
	}
	.bar {
		display: flex;
		gap: 2px;
	}
	i {
		width: 27px;
		height: 6px;
		background: var(--rule);
	}
	i[data-state='done'] {
		background: var(--clear);
	}
	i[data-state='now'] {
		background: repeating-linear-gradient(90deg, var(--brass-a) 0 5px, var(--brass-b) 5px 8px);
	}
	@media (max-width: 1000px) {
		a {
			min-width: 0;
		}
	}
	@media (max-width: 600px) {
		a {
			flex: none;
			padding: 11px 9px 0;
		}
	}
</style>
