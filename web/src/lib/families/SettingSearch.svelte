<script lang="ts">
	/** Which setting of the dictionary a parameter is: typed by any word for it, chosen by arrows and Enter. */
	import { answer, api } from '../api/client';
	import type { FamilyPage } from './family-page.svelte';

	let { at }: { at: FamilyPage } = $props();

	let typed = $state<string | null>(null);
	let found = $state.raw<string[]>([]);
	let chosen = $state(0);
	const label = $derived(at.words[at.parameter?.setting ?? '']?.label ?? '');

	async function search(text: string): Promise<void> {
		typed = text;
		chosen = 0;
		if (!text.trim()) return void (found = []);
		const ids = await answer(api.GET('/api/dictionary/search', { params: { query: { text } } }));
		if (typed === text) found = ids;
	}

	function take(setting: string): void {
		at.map(setting);
		[typed, found] = [null, []];
	}

	function keys(event: KeyboardEvent): void {
		if (event.key === 'ArrowDown') chosen = Math.min(chosen + 1, found.length - 1);
		else if (event.key === 'ArrowUp') chosen = Math.max(chosen - 1, 0);
		else if (event.key === 'Escape') [typed, found] = [null, []];
		else if (event.key === 'Enter') {
			const id = found[chosen];
			if (id) take(id);
			else if (typed === '') take('');
		} else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<div class="search">
	<label for="setting">Which setting it is</label>
	<input
		id="setting"
		class="field"
		role="combobox"
		aria-expanded={found.length > 0}
		aria-controls="settings-found"
		autocomplete="off"
		placeholder="type any word for it"
		value={typed ?? label}
		oninput={(event) => void search(event.currentTarget.value)}
		onkeydown={keys}
	/>
	{#if found.length}
		<ul id="settings-found" role="listbox">
			{#each found as id, i (id)}
				{@const word = at.words[id]}
				<li role="option" aria-selected={i === chosen}>
					<button type="button" tabindex="-1" onclick={() => take(id)}
						><b>{word?.label ?? id}</b> <span>{word?.definition}</span></button
					>
				</li>
			{/each}
		</ul>
	{/if}
</div>

<style>
	.search {
		position: relative;
		display: grid;
		gap: 2px;
	}
	label {
		font-size: var(--t1);
		color: var(--ink-3);
		font-weight: 600;
	}
	.field {
		font: 600 var(--t3) var(--sans);
	}
	ul {
		position: absolute;
		top: 100%;
		left: 0;
		right: 0;
		z-index: 3;
		list-style: none;
		padding: 2px;
		background: var(--sheet);
		border: 1.5px solid var(--steel);
		border-radius: var(--r);
	}
	li button {
		width: 100%;
		text-align: left;
		padding: 6px 8px;
		font-size: var(--t2);
	}
	li span {
		color: var(--ink-3);
	}
	li[aria-selected='true'] {
		background: var(--brass-wash);
	}
</style>
