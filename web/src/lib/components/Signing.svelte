<script lang="ts">
	/** Asks once who signs what is proven on this device. */
	import { session } from '../session.svelte';

	let name = $state('');
	let dialog = $state<HTMLDialogElement>();

	$effect(() => {
		if (session.signing) dialog?.showModal();
		else dialog?.close();
	});
</script>

<dialog bind:this={dialog} aria-labelledby="signing" oncancel={() => session.signs('')}>
	<form
		onsubmit={(event) => {
			event.preventDefault();
			session.signs(name);
		}}
	>
		<h2 id="signing">Who signs?</h2>
		<p class="say">
			Your own name stands beside everything you prove. It is asked once on this device, and can be changed in
			the bar above.
		</p>
		<label
			>Name
			<input class="field" bind:value={name} maxlength="120" autocomplete="name" /></label
		>
		<div>
			<button class="act" data-big disabled={!name.trim()}>Sign with it</button>
			<button type="button" class="act" data-big data-quiet onclick={() => session.signs('')}>Not now</button>
		</div>
	</form>
</dialog>

<style>
	dialog {
		margin: auto;
		width: min(460px, calc(100vw - 24px));
		padding: 20px 22px;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		background: var(--sheet);
		color: var(--ink);
	}
	dialog::backdrop {
		background: rgb(0 0 0 / 0.45);
	}
	h2 {
		font-size: var(--t5);
	}
	label {
		display: grid;
		gap: 3px;
		margin-top: 12px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.field {
		min-height: 48px;
		font-family: var(--sans);
	}
	div {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
		margin-top: 16px;
	}
</style>
