<script lang="ts">
	/** The family itself: its name, what it fits, its keys and languages, its fault codes and what only shows. */
	import type { Family, FamilyPage } from './family-page.svelte';

	let { at, trips }: { at: FamilyPage; trips: Record<string, string> } = $props();

	const f = $derived(at.draft);
	const text = (event: Event) => (event.currentTarget as HTMLInputElement | HTMLSelectElement).value;
	const set = (more: Partial<Family>) => at.change({ ...f, ...more });
	const faults = $derived(f.faults ?? []);
	const readings = $derived(f.readings ?? []);
	const fault = (i: number, more: object) =>
		set({ faults: faults.map((x, n) => (n === i ? { ...x, ...more } : x)) });
	const reading = (i: number, more: object) =>
		set({ readings: readings.map((x, n) => (n === i ? { ...x, ...more } : x)) });
	const without = <T,>(list: T[], i: number) => list.filter((_, n) => n !== i);
</script>

<section aria-label="The family itself">
	<div class="three">
		<label>Name<input class="field" value={f.name} onchange={(event) => set({ name: text(event) })} /></label>
		<label
			>Fits: sizes, firmware<input
				class="field"
				value={f.fits ?? ''}
				onchange={(event) => set({ fits: text(event) })}
			/></label
		>
		<label
			>Languages of the display<input
				class="field"
				value={(f.languages ?? ['en']).join(', ')}
				onchange={(event) =>
					set({
						languages: text(event)
							.split(/[,\s]+/)
							.filter(Boolean)
					})}
			/></label
		>
	</div>
	<label
		>About<input
			class="field"
			value={f.about ?? ''}
			onchange={(event) => set({ about: text(event) })}
		/></label
	>
	{#if (f.languages?.length ?? 1) > 1}
		<label class="short"
			>Labels are typed in<select
				class="field"
				value={at.language}
				onchange={(event) => (at.chosen = text(event))}
			>
				{#each f.languages ?? [] as language (language)}<option value={language}>{language}</option>{/each}
			</select></label
		>
	{/if}
	<div class="three">
		{#each Object.entries(at.dictionary?.keys ?? {}) as [id, words] (id)}
			<label
				>{words}<input
					class="field"
					value={f.keys?.[id] ?? ''}
					onchange={(event) => set({ keys: { ...f.keys, [id]: text(event) } })}
				/></label
			>
		{/each}
	</div>
	<h3>Fault codes</h3>
	{#each faults as one, i (i)}
		<div class="row">
			<input
				class="field num"
				aria-label="Fault code"
				value={one.code}
				onchange={(event) => fault(i, { code: text(event) })}
			/>
			<input
				class="field"
				aria-label="Its words"
				value={one.label[at.language] ?? ''}
				onchange={(event) => fault(i, { label: { ...one.label, [at.language]: text(event) } })}
			/>
			<select
				class="field"
				aria-label="What it means"
				value={one.trip ?? ''}
				onchange={(event) => fault(i, { trip: text(event) })}
			>
				<option value="">– something else</option>
				{#each Object.entries(trips) as [id, words] (id)}<option value={id}>{words}</option>{/each}
			</select>
			<button type="button" class="act" data-quiet onclick={() => set({ faults: without(faults, i) })}
				>Off</button
			>
		</div>
	{/each}
	<button
		type="button"
		class="act short"
		data-quiet
		onclick={() => set({ faults: [...faults, { code: '', label: {}, trip: '' }] })}>Add a fault code</button
	>
	<h3>What only shows: Hz, A, V, kW, bus volts, heatsink, run hours, kWh, last faults</h3>
	{#each readings as one, i (i)}
		<div class="row">
			<input
				class="field num"
				aria-label="Number of the reading"
				value={one.number}
				onchange={(event) => reading(i, { number: text(event) })}
			/>
			<input
				class="field"
				aria-label="Label of the reading"
				value={one.label[at.language] ?? ''}
				onchange={(event) => reading(i, { label: { ...one.label, [at.language]: text(event) } })}
			/>
			<input
				class="field"
				aria-label="What it reads"
				value={one.reads}
				onchange={(event) => reading(i, { reads: text(event) })}
			/>
			<button type="button" class="act" data-quiet onclick={() => set({ readings: without(readings, i) })}
				>Off</button
			>
		</div>
	{/each}
	<button
		type="button"
		class="act short"
		data-quiet
		onclick={() => set({ readings: [...readings, { number: '', label: {}, reads: '', unit: '', scale: 1 }] })}
		>Add a reading</button
	>
</section>

<style>
	section {
		display: grid;
		gap: 8px;
		padding: 12px 18px 16px;
		border-bottom: 1px solid var(--rule);
		background: var(--well);
		max-height: 60vh;
		overflow: auto;
	}
	label {
		font-size: var(--t1);
		color: var(--ink-3);
		font-weight: 600;
		display: grid;
		gap: 2px;
	}
	.field {
		width: 100%;
		min-width: 0;
		font-size: var(--t3);
	}
	.field:not(.num) {
		font-family: var(--sans);
	}
	.three {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
		gap: 8px;
	}
	.row {
		display: grid;
		grid-template-columns: 110px minmax(0, 1fr) 220px auto;
		gap: 8px;
	}
	.short {
		justify-self: start;
	}
	@media (max-width: 600px) {
		.row {
			grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
		}
	}
</style>
