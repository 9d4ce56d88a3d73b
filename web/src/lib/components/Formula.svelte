<script lang="ts">
	/** A formula with its indices set low: n_s becomes n with a small s. */
	let { text }: { text: string } = $props();

	const pieces = $derived(
		text
			.split(/(_[A-Za-z0-9]+)/)
			.map((piece) =>
				piece.startsWith('_') ? { sub: true, text: piece.slice(1) } : { sub: false, text: piece }
			)
	);
</script>

{#each pieces as piece, i (i)}{#if piece.sub}<sub>{piece.text}</sub>{:else}{piece.text}{/if}{/each}

<style>
	sub {
		font-size: 0.72em;
		vertical-align: baseline;
		position: relative;
		bottom: -0.22em;
	}
</style>
