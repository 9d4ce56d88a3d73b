<script lang="ts">
	import '../app.css';
	import { page } from '$app/state';
	import type { LayoutProps } from './$types';
	import Palette from '$lib/components/Palette.svelte';
	import Rail from '$lib/components/Rail.svelte';
	import Signing from '$lib/components/Signing.svelte';
	import WorkingDrawer from '$lib/components/WorkingDrawer.svelte';
	import { sendAll } from '$lib/run/sending';
	import { session } from '$lib/session.svelte';

	let { children }: LayoutProps = $props();
	const ready = session.load();

	/** How often it is tried to send what waits of other lines than the open one, in ms. */
	const TRIED = 3000;
	$effect(() => {
		const open = page.route.id === '/line/[id]/run' ? page.params['id'] : undefined;
		let timer: ReturnType<typeof setTimeout>;
		let ended = false;
		const beat = async () => {
			await sendAll(open).catch(() => undefined); // storage is closed to us: nothing waits there
			if (!ended) timer = setTimeout(() => void beat(), TRIED);
		};
		void beat();
		return () => {
			ended = true;
			clearTimeout(timer);
		};
	});
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
<Signing />

<style>
	.frame {
		display: grid;
		grid-template-columns: 56px minmax(0, 1fr);
		height: 100vh;
		height: 100dvh;
	}
	@media (max-width: 600px) {
		.frame {
			grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
		}
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
