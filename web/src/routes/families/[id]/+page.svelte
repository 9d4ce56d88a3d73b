<script lang="ts">
	/** A family in hand: its parameters in the keypad's order, the one in hand beside them, and a real line to try it. */
	import { page } from '$app/state';
	import { answer, api, type Schemas } from '$lib/api/client';
	import Mark from '$lib/components/Mark.svelte';
	import TopBar from '$lib/components/TopBar.svelte';
	import { FamilyPage } from '$lib/families/family-page.svelte';
	import ParameterForm from '$lib/families/ParameterForm.svelte';
	import Paste from '$lib/families/Paste.svelte';
	import Whole from '$lib/families/Whole.svelte';
	import Tools from '$lib/families/Tools.svelte';

	const id = $derived(page.params['id'] ?? '');
	const at = $derived(new FamilyPage(id, page.url.searchParams.get('line') ?? ''));
	let pasting = $state(false);
	let whole = $state(false);
	let list: HTMLElement | undefined = $state();

	$effect(() => {
		void at.load();
		return () => at.again.stop();
	});
	$effect(() => {
		void at.at;
		list?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' });
	});

	function near(): void {
		if (list && list.scrollTop + list.clientHeight > list.scrollHeight - 600) at.more();
	}

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
	<Tools {at} {id} bind:pasting bind:whole />
	{#if at.problem}<p class="problem" role="alert">{at.problem}</p>{/if}
	{#if whole}<Whole {at} trips={at.dictionary?.trips ?? {}} />{/if}
	{#if pasting}<Paste {at} leave={() => (pasting = false)} />{/if}
	<main class="two" style="--wide: 420px; --narrow: 330px" data-folds>
		<div class="rows" bind:this={list} onscroll={near} role="listbox" aria-label="Parameters" tabindex="0">
			{#if differences}
				<p class="say">
					{differences.length
						? `${differences.length} differ from ${like}:`
						: `Nothing differs from ${like} yet.`}
					{differences.map((d) => `${d.number} ${d.words}`).join(' ')}
				</p>
			{/if}
			{#each at.drawn as place (place)}
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
		font-size: var(--t1);
		line-height: 14px;
		color: var(--ink-3);
		display: block;
		text-decoration: none;
	}
	h1 {
		font-size: var(--t4);
		font-weight: 650;
		line-height: 21px;
		white-space: nowrap;
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
		grid-template-columns: minmax(64px, 0.9fr) minmax(0, 1.1fr) minmax(0, 1.2fr) 90px 24px;
		gap: 10px;
		align-items: center;
		text-align: left;
		min-height: 34px;
		padding: 3px 12px 3px 18px;
		border-bottom: 1px solid var(--rule);
		font-size: var(--t3);
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
	.rows b {
		overflow-wrap: anywhere;
	}
	em {
		font-style: normal;
		font-weight: 650;
		text-align: right;
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
		padding: 8px 18px;
	}
	@media (pointer: coarse) {
		.rows button {
			min-height: 46px;
		}
	}
</style>
