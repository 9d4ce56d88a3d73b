<script lang="ts">
	/** What is done with a family as a whole: searched, pasted into, duplicated, sent and taken, tried on a line. */
	import { goto } from '$app/navigation';
	import { answer, api, type Schemas } from '../api/client';
	import { session } from '../session.svelte';
	import {
		freshId,
		NEW_PARAMETER,
		readFile,
		type Family,
		type FamilyPage,
		type Show
	} from './family-page.svelte';

	let {
		at,
		id,
		pasting = $bindable(),
		whole = $bindable()
	}: { at: FamilyPage; id: string; pasting: boolean; whole: boolean } = $props();

	type Row = Schemas['RoundView']['sites'][number]['lines'][number];
	let lines = $state.raw<Row[]>([]);
	$effect(() => {
		answer(api.GET('/api/round')).then(
			(round) => (lines = round.sites.flatMap((s) => s.lines)),
			() => undefined
		);
	});

	const SHOWS: Record<Show, string> = {
		all: 'All',
		unmapped: 'Unmapped',
		doubtful: 'Doubtful',
		wrong: 'Wrong'
	};
	const count = (show: Show) =>
		show === 'all'
			? at.parameters.length
			: show === 'unmapped'
				? at.parameters.filter((p) => !p.setting).length
				: show === 'doubtful'
					? at.parameters.filter((p) => p.doubt).length
					: Object.values(at.problems).filter((all) => all?.some((x) => x.grave)).length;

	async function duplicate(): Promise<void> {
		if (!(await session.signed())) return;
		const all = await answer(api.GET('/api/families'));
		const name = `${at.draft.name}, another`;
		const fresh = freshId(name, all);
		const copy: Family = { ...at.draft, id: fresh, name };
		await answer(
			api.PUT('/api/families/{family_id}', {
				params: { path: { family_id: fresh } },
				body: { revision: 0, family: copy, by: session.by }
			})
		);
		await goto(`/families/${fresh}?like=${id}`);
	}

	async function table(event: Event): Promise<void> {
		const file = (event.currentTarget as HTMLInputElement).files?.[0];
		if (!file) return;
		try {
			const read = await readFile(file, id);
			at.change({ ...at.draft, parameters: read.parameters });
		} catch (error) {
			at.problem = (error as Error).message;
		}
	}
</script>

<div class="tools">
	<input
		class="field"
		type="search"
		placeholder="Search"
		aria-label="Search parameters"
		bind:value={at.search}
	/>
	<span class="shows" role="group" aria-label="Show">
		{#each Object.entries(SHOWS) as [show, words] (show)}
			<button type="button" aria-pressed={at.show === show} onclick={() => (at.show = show as Show)}
				>{words} <span class="num">{count(show as Show)}</span></button
			>
		{/each}
	</span>
	<button type="button" class="act" data-quiet aria-pressed={pasting} onclick={() => (pasting = !pasting)}
		>Paste a table</button
	>
	<button type="button" class="act" data-quiet aria-pressed={whole} onclick={() => (whole = !whole)}
		>The family</button
	>
	<button
		type="button"
		class="act"
		data-quiet
		onclick={() => at.add([{ ...NEW_PARAMETER, number: `new ${at.parameters.length + 1}` }])}>Add one</button
	>
	<button type="button" class="act" data-quiet onclick={() => void duplicate()}>Duplicate</button>
	<label class="act" data-quiet
		>CSV in<input
			type="file"
			accept=".csv,text/csv"
			class="sr-only"
			onchange={(event) => void table(event)}
		/></label
	>
	<a class="act" data-quiet href="/api/families/{id}/file?kind=csv" download>CSV</a>
	<a class="act" data-quiet href="/api/families/{id}/file" download>JSON</a>
	<select
		class="field"
		aria-label="Try it on"
		value={at.line}
		onchange={(event) => {
			at.line = event.currentTarget.value;
			void at.tryIt();
		}}
	>
		<option value="">Try it on a line …</option>
		{#each lines as line (line.id)}<option value={line.id}>{line.tag}</option>{/each}
	</select>
</div>

<style>
	.tools {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		padding: 8px 18px;
		border-bottom: 1px solid var(--rule);
		align-items: center;
	}
	.tools .field {
		font: 500 var(--t3) var(--sans);
		width: 150px;
		min-height: 36px;
	}
	.shows {
		display: flex;
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
	}
	.shows button {
		padding: 6px 10px;
		font-size: var(--t2);
		min-height: 34px;
		color: var(--ink-2);
	}
	.shows button[aria-pressed='true'] {
		background: var(--brass-wash);
		color: var(--ink);
		font-weight: 650;
	}
	@media (pointer: coarse) {
		.shows button {
			min-height: 46px;
		}
	}
</style>
