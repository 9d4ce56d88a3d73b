<script lang="ts">
	/** The drive's access code: kept encrypted, shown to who says why, which the story tells. */
	import { answer, api, type Schemas } from '../api/client';
	import { session } from '../session.svelte';

	let { line }: { line: string } = $props();

	let known = $state.raw<Schemas['CodeView'] | null>(null);
	let typed = $state('');
	let why = $state('');
	let doing = $state<'' | 'keep' | 'show'>('');
	let problem = $state('');
	const params = $derived({ path: { line_id: line } });

	$effect(() => {
		answer(api.GET('/api/lines/{line_id}/code', { params })).then(
			(found) => (known = found),
			() => undefined // without a link nothing is shown of it
		);
	});

	async function done(call: () => Promise<Schemas['CodeView']>): Promise<void> {
		if (!(await session.signed())) return;
		try {
			known = await call();
			[typed, why, doing, problem] = ['', '', '', ''];
		} catch (error) {
			problem = (error as Error).message;
		}
	}
	const keep = () =>
		done(() =>
			answer(api.PUT('/api/lines/{line_id}/code', { params, body: { code: typed, by: session.by } }))
		);
	const show = () =>
		done(() => answer(api.POST('/api/lines/{line_id}/code/show', { params, body: { why, by: session.by } })));
</script>

{#if known}
	<form
		class="code"
		aria-label="Access code"
		onsubmit={(event) => {
			event.preventDefault();
			void (doing === 'keep' ? keep() : show());
		}}
	>
		<b>Access code</b>
		{#if known.code}<span class="num shown">{known.code}</span>
			<button
				type="button"
				class="act"
				data-quiet
				onclick={() => (known = { kept: true, by: known?.by ?? '' })}>Hide</button
			>
		{:else if doing === 'keep'}
			<input class="field" aria-label="Access code to keep" bind:value={typed} autocomplete="off" />
			<button class="act">{typed ? 'Save' : 'Remove'}</button>
		{:else if doing === 'show'}
			<input class="field" aria-label="Why you need it" placeholder="why you need it" bind:value={why} />
			<button class="act" disabled={!why.trim()}>Show it</button>
		{:else}
			<span class="say"
				>{known.kept ? `kept encrypted, by ${known.by}` : 'not kept here'}. It is in no export; who looks at
				it stands in the story.</span
			>
			{#if known.kept}<button type="button" class="act" data-quiet onclick={() => (doing = 'show')}
					>Show it</button
				>{/if}
			<button type="button" class="act" data-quiet onclick={() => (doing = 'keep')}
				>{known.kept ? 'Change it' : 'Keep one'}</button
			>
		{/if}
		{#if problem}<span class="problem" role="alert">{problem}</span>{/if}
	</form>
{/if}

<style>
	.code {
		display: flex;
		flex-wrap: wrap;
		gap: 12px;
		align-items: center;
		margin-top: 16px;
		padding: 10px 14px;
		border: 1px solid var(--rule);
		border-radius: var(--r);
		background: var(--sheet);
	}
	.shown {
		font-size: var(--t5);
		font-weight: 700;
	}
</style>
