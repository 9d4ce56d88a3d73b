<script lang="ts">
	/** Shows and hides the fields in which readings are entered. */
	let { entering = $bindable(), words = 'Enter readings' }: { entering: boolean; words?: string } = $props();
</script>

<button type="button" class="act" data-quiet aria-expanded={entering} onclick={() => (entering = !entering)}
	>{entering ? 'Hide the readings' : words}</button
>
