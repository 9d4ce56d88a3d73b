<script lang="ts">
	/** What few parameters have: a second field, a bit of a shared word, and something that must be set first. */
	import type { FamilyPage, Parameter } from './family-page.svelte';

	let { at, p }: { at: FamilyPage; p: Parameter } = $props();

	const word = $derived(at.words[p.setting ?? '']);
	const first = $derived(at.words[p.needs?.setting ?? '']);
	const used = $derived(p.rest || p.bit || p.needs);
	const whole = (text: string, otherwise: number) => (/^\d+$/.test(text.trim()) ? Number(text) : otherwise);
	const choices = $derived(
		at.parameters.flatMap((q) => {
			const other = at.words[q.setting ?? ''];
			return other && other.dimension === null && q !== p ? [other] : [];
		})
	);
</script>

<details open={Boolean(used)}>
	<summary>Two fields, one bit, or hidden until something is set</summary>
	<div class="pair">
		{#if word?.dimension !== null}
			<label
				>Rest goes into<input
					class="field num"
					placeholder="one field only"
					value={p.rest?.number ?? ''}
					onchange={(event) =>
						at.set({
							rest: event.currentTarget.value
								? { number: event.currentTarget.value, per: p.rest?.per ?? 1000 }
								: null
						})}
				/></label
			>
			{#if p.rest}<label
					>what is left below<input
						class="field num"
						value={p.rest.per ?? 1000}
						onchange={(event) =>
							at.set({ rest: { number: p.rest?.number ?? '', per: whole(event.currentTarget.value, 1000) } })}
					/></label
				>{/if}
		{:else}
			<label
				>Bit of a shared word, from 0<input
					class="field num"
					placeholder="a number of its own"
					value={p.bit?.at ?? ''}
					onchange={(event) =>
						at.set({
							bit: event.currentTarget.value.trim() ? { at: whole(event.currentTarget.value, 0) } : null
						})}
				/></label
			>
		{/if}
	</div>
	<div class="pair">
		<label
			>Shown only while<select
				class="field"
				value={p.needs?.setting ?? ''}
				onchange={(event) =>
					at.set({
						needs: event.currentTarget.value ? { setting: event.currentTarget.value, stands: [] } : null
					})}
			>
				<option value="">– always shown</option>
				{#each choices as other (other.id)}<option value={other.id}>{other.label}</option>{/each}
			</select></label
		>
		{#if p.needs && first}
			<label
				>stands at<select
					class="field"
					value={p.needs.stands[0] ?? ''}
					onchange={(event) =>
						at.set({ needs: { setting: p.needs?.setting ?? '', stands: [event.currentTarget.value] } })}
				>
					<option value="">–</option>
					{#each Object.entries(first.choices) as [id, label] (id)}<option value={id}>{label}</option>{/each}
				</select></label
			>
		{/if}
	</div>
</details>

<style>
	summary {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	label {
		font-size: var(--t1);
		color: var(--ink-3);
		font-weight: 600;
		display: grid;
		gap: 2px;
	}
	.field {
		font-size: var(--t3);
		width: 100%;
		min-width: 0;
	}
	.field:not(.num) {
		font-family: var(--sans);
	}
	.pair {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 8px;
		margin-top: 6px;
	}
</style>
