<script lang="ts">
	import '../app.css';
	import type { LayoutProps } from './$types';
	import Palette from '$lib/components/Palette.svelte';
	import Rail from '$lib/components/Rail.svelte';
	import WorkingDrawer from '$lib/components/WorkingDrawer.svelte';
	import { session } from '$lib/session.svelte';

	let { children }: LayoutProps = $props();
	const ready = session.load();
</script>

<a class="skip" href="#main">To the content</a>
<div class="frame">
	<Rail />
	<div class="page" id="main">
		{#await ready}
			<p class="say wait">Winding up …</p>
		{:then}
			{@render children()}
		{:catch error}
			<main class="wait">
				<h1>The server does not answer</h1>
				<p class="say">{error.message}</p>
				<button class="act" onclick={() => location.reload()}>Try again</button>
			</main>
		{/await}
	</div>
</div>
<WorkingDrawer />
<Palette />

<style>
	.frame {
		display: grid;
		grid-template-columns: 56px minmax(0, 1fr);
		height: 100vh;
		height: 100dvh;
	}
	.page {
		display: grid;
		grid-template: minmax(0, 1fr) / minmax(0, 1fr);
		min-width: 0;
		min-height: 0;
	}
	.wait {
		padding: 40px;
		display: grid;
		gap: 12px;
		justify-items: start;
		align-content: start;
	}
	.skip {
		position: absolute;
		left: -999px;
	}
	.skip:focus {
		left: 8px;
		top: 8px;
		z-index: 50;
		background: var(--sheet);
		padding: 8px;
	}
</style>
