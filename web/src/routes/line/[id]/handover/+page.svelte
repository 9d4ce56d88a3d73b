<script lang="ts">
	/** Hand-over: what is missing, the files that leave the house, and what happened. */
	import { answer, api, type Schemas } from '$lib/api/client';
	import { Reading } from '$lib/api/reading.svelte';
	import Mark from '$lib/components/Mark.svelte';
	import { openLine } from '$lib/line/context';
	import { session } from '$lib/session.svelte';
	import { moment } from '$lib/words';

	const line = openLine();
	const reading = new Reading<[Schemas['Readiness'], Schemas['EventOut'][]]>();
	const ready = $derived(reading.value?.[0]);
	const missing = $derived(ready?.missing);
	const events = $derived(reading.value?.[1] ?? []);
	let refused = $state('');
	const problem = $derived(refused || reading.problem);
	const params = $derived({ path: { line_id: line.id } });
	const over = $derived(line.line?.stages.at(-1)?.state === 'done');

	$effect(() => {
		void line.version;
		return reading.read(() =>
			Promise.all([
				answer(api.GET('/api/lines/{line_id}/readiness', { params })),
				answer(api.GET('/api/lines/{line_id}/events', { params }))
			])
		);
	});

	async function handOver(): Promise<void> {
		if (!(await session.signed())) return;
		try {
			await answer(
				api.POST('/api/lines/{line_id}/evidence', {
					params,
					body: {
						id: crypto.randomUUID(),
						step: 'handover.done',
						kind: 'tick',
						data: {},
						paper: false,
						by: session.who,
						note: missing?.length ? `handed over with ${missing.length} open` : ''
					}
				})
			);
			await line.refresh();
		} catch (error) {
			refused = (error as Error).message;
		}
	}
</script>

<main>
	<section>
		<h2>{over ? 'Handed over' : !ready ? 'Hand-over' : missing?.length ? 'Not ready yet' : 'Ready'}</h2>
		{#if problem}<p class="problem">{problem}</p>{/if}
		{#if !ready && !problem}<p class="row">Looking at what is still open …</p>{/if}
		{#each missing ?? [] as text (text)}
			<p class="row">
				<Mark
					severity={text.startsWith('Stop') ? 'stop' : /differs|put back/.test(text) ? 'caution' : 'unknown'}
					named
				/>
				{text}
			</p>
		{/each}
		{#each ready?.standing ?? [] as left (left.step + left.at)}
			<p class="row">
				<Mark severity="caution" named />
				<span
					>{left.title}: {left.words}
					<i class="why">{left.by}, {moment(left.at)}{left.why ? `: ${left.why}` : ''}</i></span
				>
			</p>
		{/each}
		{#if ready && !ready.missing.length}
			<p class="row">
				<Mark severity="clear" named />
				{ready.standing.length
					? 'Nothing is open. What is listed stands on the page.'
					: 'Nothing stands against it.'}
			</p>
		{/if}
		<div class="actions">
			<button class="act" data-big onclick={handOver} disabled={over || !ready}
				>{over ? 'Handed over' : missing?.length ? 'Hand over all the same' : 'Hand over'}</button
			>
		</div>
	</section>
	<aside>
		<h2>Files</h2>
		<a
			class="file sheet"
			href="/api/lines/{line.id}/handover.pdf?units={session.system}"
			target="_blank"
			rel="noopener"
			><b>Hand-over page</b><span>PDF, one page, in {session.units.system(session.system)?.label} units</span
			></a
		>
		<a class="file sheet" href="/api/lines/{line.id}/settings.csv?units={session.system}" download
			><b>Settings sheet</b><span>CSV, planned, as found, as left</span></a
		>
		<a class="file sheet" href="/api/lines/{line.id}/export.json" download
			><b>Whole line</b><span>open JSON; imports again as an equal line</span></a
		>
		<h2 class="gap">What happened</h2>
		<ol>
			{#each events.slice(0, 14) as event, i (i)}
				<li><span class="num">{moment(event.at)}</span> {event.what}: {event.subject} <i>{event.who}</i></li>
			{/each}
		</ol>
	</aside>
</main>

<style>
	main {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 400px;
		gap: 28px;
		padding: 18px 24px 30px;
		overflow: auto;
		position: relative;
		align-content: start;
	}
	.row {
		display: flex;
		align-items: center;
		gap: 9px;
		padding: 8px 0;
		border-bottom: 1px solid var(--rule);
	}
	.why {
		display: block;
		font-style: normal;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.actions {
		margin-top: 18px;
	}
	.file {
		display: block;
		padding: 11px 14px;
		margin-top: 10px;
		text-decoration: none;
		color: inherit;
	}
	.file b {
		color: var(--steel);
		display: block;
	}
	.file span {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.gap {
		margin-top: 20px;
	}
	ol {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	li {
		padding: 5px 0;
		border-bottom: 1px solid var(--rule);
		overflow-wrap: anywhere;
	}
	i {
		font-style: normal;
		color: var(--ink-3);
	}
	@media (max-width: 1000px) {
		main {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
