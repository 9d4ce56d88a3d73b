<script lang="ts">
	/** A parameter of the drive that the sheet has no setting for: its label, what it is set to, and why. */
	import type { SettingsPage } from './settings-page.svelte';

	let { at }: { at: SettingsPage } = $props();

	let label = $state('');
	let value = $state('');
	let why = $state('');

	async function add(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		if (await at.addOwn(label, value, why)) [label, value, why] = ['', '', ''];
	}
</script>

<form onsubmit={add} aria-label="Another parameter">
	<b>Another parameter of this drive</b>
	<input
		class="field"
		aria-label="Number and name of the parameter"
		placeholder="61.4 Stop at no flow"
		maxlength="70"
		bind:value={label}
		required
	/>
	<input class="field num" aria-label="Its value" placeholder="275" maxlength="200" bind:value required />
	<input
		class="field why"
		aria-label="Why it is set so"
		placeholder="Why"
		maxlength="500"
		bind:value={why}
		required
	/>
	<button class="act" data-quiet>Add</button>
</form>

<style>
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 12px;
		align-items: center;
		margin-top: 16px;
		font-size: var(--t3);
	}
	.num {
		width: 9ch;
	}
	.why {
		flex: 1;
		min-width: 18ch;
	}
</style>
