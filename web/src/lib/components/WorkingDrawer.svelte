<script lang="ts">
	/** The working of the figure that was touched, over the right of any page. */
	import { session } from '../session.svelte';
	import WorkingSheet from './WorkingSheet.svelte';

	let shut = $state<HTMLButtonElement>();
	$effect(() => {
		if (session.working) shut?.focus();
	});
</script>

<svelte:window
	onkeydown={(event) => {
		if (event.key === 'Escape') session.working = null;
	}}
/>

{#if session.working}
	<aside aria-label="Working" aria-live="polite">
		<header>
			<h2>Working</h2>
			<button class="act" data-quiet bind:this={shut} onclick={() => (session.working = null)}>Close</button>
		</header>
		{#await session.working}
			<p class="say">Working it out …</p>
		{:then working}
			<WorkingSheet {working} />
		{:catch error}
			<p class="say">{error.message}</p>
		{/await}
	</aside>
{/if}

<style>
	aside {
		position: fixed;
		z-index: 30;
		right: 0;
		top: 0;
		bottom: 0;
		width: min(460px, 100vw);
		background: var(--sheet);
		border-left: 2px solid var(--steel);
		padding: 14px 16px;
		overflow: auto;
	}
	header {
		display: flex;
		justify-content: space-between;
		align-items: center;
		margin-bottom: 10px;
	}
</style>
