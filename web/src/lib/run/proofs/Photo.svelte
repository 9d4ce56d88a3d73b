<script lang="ts">
	/** A photo, from the camera or a file. */
	import type { ProofEntry } from '../proof-entry.svelte';

	let { entry, busy }: { entry: ProofEntry; busy: boolean } = $props();

	function take(files: FileList | null): void {
		const file = files?.[0];
		if (file) entry.keep('photo', { photo: crypto.randomUUID() }, '', '', file);
	}
</script>

<div class="actions">
	<label class="act" data-big data-off={entry.shut}
		>Take the photo
		<input
			class="sr-only"
			type="file"
			accept="image/jpeg,image/png,image/webp"
			capture="environment"
			disabled={busy || entry.shut}
			onchange={(event) => {
				take(event.currentTarget.files);
				event.currentTarget.value = '';
			}}
		/></label
	>
</div>

<style>
	label {
		position: relative;
	}
	label:focus-within {
		outline: 2px solid var(--steel);
		outline-offset: 2px;
	}
	label[data-off='true'] {
		opacity: 0.45;
		cursor: not-allowed;
	}
</style>
