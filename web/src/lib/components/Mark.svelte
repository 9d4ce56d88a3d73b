<script lang="ts">
	/** A severity as a shape: stop, caution, clear, unknown; the word stands beside it or in its title. */
	let { severity, size = 16, named = false }: { severity: string; size?: number; named?: boolean } = $props();
</script>

<svg
	viewBox="0 0 16 16"
	width={size}
	height={size}
	data-severity={severity}
	role={named ? 'img' : undefined}
	aria-label={named ? severity : undefined}
	aria-hidden={named ? undefined : 'true'}
>
	{#if severity === 'stop'}
		<rect x="1.5" y="1.5" width="13" height="13" fill="var(--tone)" />
		<rect x="4" y="7" width="8" height="2" fill="var(--sheet)" />
	{:else if severity === 'caution'}
		<path d="M8 .8 15.2 8 8 15.2.8 8z" fill="var(--sheet)" stroke="var(--tone)" stroke-width="1.6" />
		<path d="M8 .8 15.2 8H.8z" fill="var(--tone)" />
	{:else if severity === 'clear'}
		<circle cx="8" cy="8" r="6.4" fill="var(--sheet)" stroke="var(--tone)" stroke-width="1.6" />
		<circle cx="8" cy="8" r="2.9" fill="var(--tone)" />
	{:else}
		<circle
			cx="8"
			cy="8"
			r="6.4"
			fill="var(--sheet)"
			stroke="var(--tone)"
			stroke-width="1.5"
			stroke-dasharray="2.4 2.2"
		/>
	{/if}
</svg>

<style>
	svg {
		display: inline-block;
		vertical-align: -2px;
		flex: none;
	}
</style>
