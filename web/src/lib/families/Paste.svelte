<script lang="ts">
	/** A table from a manual: pasted, its columns shown for confirmation, then taken. */
	import { answer, api, type Schemas } from '../api/client';
	import type { FamilyPage } from './family-page.svelte';

	let { at, leave }: { at: FamilyPage; leave: () => void } = $props();

	let text = $state('');
	let seen = $state.raw<Schemas['PastedView'] | null>(null);
	let problem = $state('');
	const NAMES: Record<string, string> = {
		number: 'Number',
		label: 'Label',
		range: 'Range',
		unit: 'Unit',
		default: 'Factory value',
		choices: 'Choices',
		'': 'not used'
	};
	const parameters = $derived(seen?.parameters ?? []);
	const mapped = $derived(parameters.filter((p) => p.setting).length);

	async function look(roles: string[] | null = null): Promise<void> {
		if (!text.trim()) return void (seen = null);
		try {
			seen = await answer(api.POST('/api/families/paste', { body: { text, roles } }));
			problem = '';
		} catch (error) {
			problem = (error as Error).message;
			seen = null;
		}
	}

	function role(column: number, chosen: string): void {
		if (!seen) return;
		void look(seen.roles.map((r, i) => (i === column ? chosen : r === chosen && chosen ? '' : r)));
	}

	function take(): void {
		at.add(parameters);
		leave();
	}
</script>

<section aria-label="Paste a table">
	<label for="table"
		>Copy the parameter table out of the manual’s PDF or a spreadsheet, and paste it here</label
	>
	<textarea id="table" class="field" rows={seen ? 3 : 9} bind:value={text} oninput={() => void look()}
	></textarea>
	{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
	{#if seen}
		<p class="say">
			{parameters.length} parameters, {mapped} of them recognised, {seen.unsure.length} to look at. Is each column
			what it says?
		</p>
		<div class="scroll">
			<table>
				<thead>
					<tr>
						{#each seen.roles as now, column (column)}
							<th
								><select
									class="field"
									aria-label="Column {column + 1} is"
									value={now}
									onchange={(event) => role(column, event.currentTarget.value)}
								>
									{#each Object.entries(NAMES) as [id, name] (id)}<option value={id}>{name}</option>{/each}
								</select></th
							>
						{/each}
						<th>is</th>
					</tr>
				</thead>
				<tbody>
					{#each seen.cells.slice(0, 8) as row, i (i)}
						<tr
							>{#each row as cell, j (j)}<td>{cell}</td>{/each}<td class="is"
								>{at.words[parameters[i]?.setting ?? '']?.label ?? '–'}</td
							></tr
						>
					{/each}
				</tbody>
			</table>
		</div>
		{#if seen.cells.length > 8}<p class="say">and {seen.cells.length - 8} more</p>{/if}
	{/if}
	<div class="acts">
		<button type="button" class="act" disabled={!parameters.length} onclick={take}
			>Take {parameters.length || ''} over</button
		>
		<button type="button" class="act" data-quiet onclick={leave}>Leave</button>
	</div>
</section>

<style>
	section {
		display: grid;
		gap: 8px;
		padding: 14px 18px;
		border-bottom: 1px solid var(--rule);
		background: var(--well);
	}
	label {
		font-size: var(--t2);
		font-weight: 600;
	}
	textarea {
		width: 100%;
		font-size: var(--t2);
		white-space: pre;
	}
	.scroll {
		overflow: auto;
	}
	table {
		border-collapse: collapse;
		font-size: var(--t2);
		background: var(--sheet);
	}
	td,
	th {
		padding: 3px 8px;
		border: 1px solid var(--rule);
		text-align: left;
		max-width: 240px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	th .field {
		font: 600 var(--t2) var(--sans);
	}
	.is {
		font-weight: 650;
	}
	.acts {
		display: flex;
		gap: 10px;
	}
</style>
