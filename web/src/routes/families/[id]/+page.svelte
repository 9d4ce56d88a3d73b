<script lang="ts">
	/** A family in hand: its parameters in the keypad's order, the one in hand beside them, and a real line to try it. */
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { answer, api, type Schemas } from '$lib/api/client';
	import Mark from '$lib/components/Mark.svelte';
	import TopBar from '$lib/components/TopBar.svelte';
	import { FamilyPage, freshId, readFile, type Family, type Show } from '$lib/families/family-page.svelte';
	import ParameterForm from '$lib/families/ParameterForm.svelte';
	import Paste from '$lib/families/Paste.svelte';
	import { session } from '$lib/session.svelte';

	type Row = Schemas['RoundView']['sites'][number]['lines'][number];
	const id = $derived(page.params['id'] ?? '');
	const at = $derived(new FamilyPage(id, page.url.searchParams.get('line') ?? ''));
	let lines = $state.raw<Row[]>([]);
	let pasting = $state(false);
	let list: HTMLElement | undefined = $state();

	$effect(() => void at.load());
	$effect(() => {
		answer(api.GET('/api/round')).then(
			(round) => (lines = round.sites.flatMap((s) => s.lines)),
			() => undefined
		);
	});
	$effect(() => {
		void at.at;
		list?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' });
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

	function keys(event: KeyboardEvent): void {
		const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
		if ((event.ctrlKey || event.metaKey) && event.key === 's') void at.save();
		else if ((event.ctrlKey || event.metaKey) && event.key === 'z' && !typing) at.undo();
		else if (event.altKey && event.key === 'ArrowDown') at.step(1);
		else if (event.altKey && event.key === 'ArrowUp') at.step(-1);
		else if (!typing && event.key === 'ArrowDown') at.step(1);
		else if (!typing && event.key === 'ArrowUp') at.step(-1);
		else return;
		event.preventDefault();
	}

	async function duplicate(): Promise<void> {
		if (!(await session.signed())) return;
		const all = await answer(api.GET('/api/families'));
		const name = `${at.draft.name}, another`;
		const fresh = freshId(name, all);
		const copy: Family = { ...at.draft, id: fresh, name };
		await answer(
			api.PUT('/api/families/{family_id}', {
				params: { path: { family_id: fresh } },
				body: { revision: 0, family: copy as unknown as Record<string, never>, by: session.by }
			})
		);
		await goto(`/families/${fresh}?like=${id}`);
	}

	const like = $derived(page.url.searchParams.get('like'));
	let differences = $state.raw<Schemas['ChangeView'][] | null>(null);
	$effect(() => {
		const [mine, other, kept] = [id, like, at.kept];
		if (!other || !kept) return void (differences = null);
		answer(
			api.GET('/api/families/{family_id}/differences', {
				params: { path: { family_id: mine }, query: { other } }
			})
		).then(
			(found) => (differences = found),
			() => (differences = null)
		);
	});

	async function table(event: Event): Promise<void> {
		const file = (event.currentTarget as HTMLInputElement).files?.[0];
		if (!file) return;
		try {
			const read = (await readFile(file, id)) as unknown as Family;
			at.change({ ...at.draft, parameters: read.parameters ?? [] });
		} catch (error) {
			at.problem = (error as Error).message;
		}
	}
</script>

<svelte:window onkeydown={keys} />
<svelte:head><title>{at.draft.name || 'Family'} · Mainspring</title></svelte:head>

<div class="whole">
	<TopBar>
		<div class="named">
			<a href="/families">Families of drives</a>
			<h1>{at.draft.name}</h1>
		</div>
		{#snippet end()}
			<button type="button" class="act" data-quiet onclick={() => at.undo()} disabled={!at.undoable}
				>Undo</button
			>
			<button type="button" class="act" onclick={() => void at.save()} disabled={!at.changed}>Save</button>
		{/snippet}
	</TopBar>
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
		<button
			type="button"
			class="act"
			data-quiet
			onclick={() => at.add([{ number: `new ${at.parameters.length + 1}`, label: {} }])}>Add one</button
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
	{#if at.problem}<p class="problem" role="alert">{at.problem}</p>{/if}
	{#if pasting}<Paste {at} leave={() => (pasting = false)} />{/if}
	<main class="two" style="--wide: 420px; --narrow: 330px" data-folds>
		<div class="rows" bind:this={list} role="listbox" aria-label="Parameters" tabindex="0">
			{#if differences}
				<p class="say">
					{differences.length
						? `${differences.length} differ from ${like}:`
						: `Nothing differs from ${like} yet.`}
					{differences.map((d) => `${d.number} ${d.words}`).join(' ')}
				</p>
			{/if}
			{#each at.places as place (place)}
				{@const p = at.parameters[place]}
				{@const wrong = at.problems[place] ?? []}
				{@const dial = at.dials[place]}
				{#if p}
					<button
						type="button"
						role="option"
						aria-selected={place === at.at}
						tabindex="-1"
						onclick={() => (at.at = place)}
					>
						<b class="num">{p.number}</b>
						<span>{Object.values(p.label)[0] ?? ''}</span>
						<span class="is">{at.words[p.setting ?? '']?.label ?? ''}</span>
						<em class="num">{dial?.text ?? ''}</em>
						<Mark
							severity={wrong.some((x) => x.grave)
								? 'stop'
								: !p.setting
									? 'unknown'
									: p.doubt
										? 'caution'
										: 'clear'}
							size={14}
						/>
					</button>
				{/if}
			{:else}<p class="say empty">
					{at.parameters.length
						? 'None of these.'
						: 'No parameter yet: paste the table of the manual, or add one.'}
				</p>{/each}
		</div>
		<aside>
			<ParameterForm {at} />
			{#if at.tried && at.line && at.tried.without.length}
				<details>
					<summary>{at.tried.without.length} settings of that line have no parameter here</summary>
					<p class="say">{at.tried.without.map((s) => at.words[s]?.label ?? s).join(', ')}.</p>
				</details>
			{/if}
		</aside>
	</main>
</div>

<style>
	.whole {
		display: flex;
		flex-direction: column;
		min-height: 0;
		min-width: 0;
	}
	.whole > :global(header) {
		height: 48px;
		flex: none;
	}
	.named a {
		font-size: 12px;
		line-height: 14px;
		color: var(--ink-3);
		display: block;
		text-decoration: none;
	}
	h1 {
		font-size: 16.5px;
		font-weight: 650;
		line-height: 21px;
		white-space: nowrap;
	}
	.tools {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		padding: 8px 18px;
		border-bottom: 1px solid var(--rule);
		align-items: center;
	}
	.tools .field {
		font: 500 14px var(--sans);
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
		font-size: 13.5px;
		min-height: 34px;
		color: var(--ink-2);
	}
	.shows button[aria-pressed='true'] {
		background: var(--brass-wash);
		color: var(--ink);
		font-weight: 650;
	}
	main {
		flex: 1;
	}
	.rows {
		overflow: auto;
		padding: 4px 0 30px;
	}
	.rows button {
		width: 100%;
		display: grid;
		grid-template-columns: minmax(64px, auto) minmax(0, 1.1fr) minmax(0, 1.2fr) auto 24px;
		gap: 10px;
		align-items: center;
		text-align: left;
		min-height: 34px;
		padding: 3px 12px 3px 18px;
		border-bottom: 1px solid var(--rule);
		font-size: 14px;
	}
	.rows button[aria-selected='true'] {
		background: var(--brass-wash);
		box-shadow: inset 5px 0 0 var(--brass);
	}
	.rows span {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.is {
		color: var(--ink-2);
	}
	em {
		font-style: normal;
		font-weight: 650;
	}
	.say.empty,
	.rows > .say {
		padding: 14px 18px;
	}
	aside {
		overflow: auto;
		border-left: 1px solid var(--rule);
		background: var(--sheet);
		padding: 12px 16px 30px;
	}
	.problem {
		color: var(--stop);
		font-weight: 600;
		padding: 8px 18px;
	}
	@media (pointer: coarse) {
		.rows button,
		.shows button {
			min-height: 46px;
		}
	}
</style>
