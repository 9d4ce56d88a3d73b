<script lang="ts">
	/** The round: every line on every site, what needs attention first. */
	import { goto } from '$app/navigation';
	import { answer, api, type Schemas } from '$lib/api/client';
	import Mark from '$lib/components/Mark.svelte';
	import Stages from '$lib/components/Stages.svelte';
	import TopBar from '$lib/components/TopBar.svelte';
	import { session } from '$lib/session.svelte';
	import { clock, date, day } from '$lib/words';

	type Line = Schemas['RoundLine'];
	const AT_ONCE = 60;

	let round = $state.raw<Schemas['RoundView'] | null>(null);
	let problem = $state('');
	let wanted = $state('');
	let only = $state<'all' | 'needs' | 'hand' | 'over'>('all');
	let making = $state(false);
	const applications = $derived(
		Object.entries(
			session.groups.find((g) => g.id === 'line')?.fields.find((f) => f.name === 'application')?.choices ?? {}
		)
	);
	let fresh = $state({ site: '', siteName: '', tag: '', title: '', application: 'booster' });

	async function load(): Promise<void> {
		try {
			round = await answer(api.GET('/api/round'));
			fresh.site ||= round.sites[0]?.id ?? 'new';
		} catch (error) {
			problem = (error as Error).message;
		}
	}
	void load();

	const KINDS = {
		all: () => true,
		needs: (line: Line) => line.severity === 'stop' || line.severity === 'caution',
		hand: (line: Line) => line.words !== 'Handed over',
		over: (line: Line) => line.words === 'Handed over'
	};
	const LABELS = { all: 'All', needs: 'Needs me', hand: 'In hand', over: 'Handed over' };
	const every = $derived(round?.sites.flatMap((s) => s.lines) ?? []);
	/** What is searched of each line, made once. */
	const words = $derived(
		new Map(
			(round?.sites ?? []).flatMap((s) =>
				s.lines.map((l) => [l.id, `${l.tag} ${l.title} ${s.name} ${l.headline}`.toLowerCase()] as const)
			)
		)
	);
	/** How many lines are drawn; more as one scrolls. */
	let most = $state(AT_ONCE);
	const found = $derived.by(() => {
		const text = wanted.trim().toLowerCase();
		return (round?.sites ?? [])
			.map((site) => ({
				site,
				lines: site.lines.filter((l) => KINDS[only](l) && (words.get(l.id) ?? '').includes(text))
			}))
			.filter(({ lines }) => lines.length > 0);
	});
	const count = $derived(found.reduce((sum, { lines }) => sum + lines.length, 0));
	/** The first of what was found, as many as are drawn. */
	const drawn = $derived.by(() => {
		let left = most;
		return found
			.map(({ site, lines }) => {
				const taken = lines.slice(0, Math.max(0, left));
				left -= taken.length;
				return { site, lines: taken };
			})
			.filter(({ lines }) => lines.length > 0);
	});
	$effect(() => {
		void [wanted, only];
		most = AT_ONCE;
	});

	/** Draws more when it comes into sight. */
	function further(node: HTMLElement): { destroy: () => void } {
		const watcher = new IntersectionObserver(
			(seen) => {
				if (seen.some((s) => s.isIntersecting)) most += AT_ONCE;
			},
			{ rootMargin: '600px' }
		);
		watcher.observe(node);
		return { destroy: () => watcher.disconnect() };
	}

	function stagesOf(line: Line): Schemas['StageView'][] {
		return Object.entries(round?.stages ?? {}).map(([id, label], i) => ({
			id,
			label,
			state: line.states[i] ?? 'todo'
		}));
	}

	function stageInHand(line: Line): string {
		return Object.keys(round?.stages ?? {})[line.states.indexOf('now')] ?? 'handover';
	}

	function when(at: string): string {
		const then = new Date(at);
		const days = Math.floor((Date.now() - then.getTime()) / 86_400_000);
		if (days < 1 && then.getDate() === new Date().getDate()) return `today ${clock(then)}`;
		return days < 2 ? 'yesterday' : date(then);
	}

	function inShort(line: Line): string {
		const parts = [];
		if (line.wanted !== null) parts.push(session.show(line.wanted, line.wanted_dimension));
		if (line.power !== null) parts.push(session.show(line.power, 'power'));
		return parts.join(', ');
	}

	async function make(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		problem = '';
		try {
			let site = fresh.site;
			if (site === 'new') {
				site = crypto.randomUUID();
				await answer(
					api.POST('/api/sites', {
						body: { id: site, name: fresh.siteName, units: session.system, entries: {}, by: session.who }
					})
				);
			}
			const id = crypto.randomUUID();
			const record = { line: { application: { value: fresh.application }, drive_state: { value: 'new' } } };
			await answer(
				api.POST('/api/lines', {
					body: { id, site_id: site, tag: fresh.tag, title: fresh.title, record, by: session.who }
				})
			);
			await goto(`/line/${id}/survey`);
		} catch (error) {
			problem = (error as Error).message;
		}
	}

	async function take(files: FileList | null): Promise<void> {
		const file = files?.[0];
		if (!file) return;
		problem = '';
		const query = new URLSearchParams({ id: crypto.randomUUID(), by: session.who });
		const response = await fetch(`/api/import?${query}`, { method: 'POST', body: await file.text() });
		const found = await response.json();
		if (response.ok) await goto(`/line/${found.id}/survey`);
		else problem = `${file.name}: ${found.detail}`;
	}
</script>

<svelte:head><title>The round · Mainspring</title></svelte:head>

<div class="whole">
	<TopBar>
		<h1>The round</h1>
		<span class="quiet">{day(new Date())}</span>
	</TopBar>
	<main>
		<div class="tools">
			<input
				class="field find"
				placeholder="Find a tag, a site, a finding …"
				aria-label="Find"
				bind:value={wanted}
			/>
			{#each Object.keys(LABELS) as kind (kind)}
				{@const k = kind as keyof typeof LABELS}
				<button type="button" class="chip" aria-pressed={only === k} onclick={() => (only = k)}
					>{LABELS[k]} <b class="num">{every.filter(KINDS[k]).length}</b></button
				>
			{/each}
			<span class="gap"></span>
			<label class="act" data-quiet
				>Import<input
					type="file"
					accept="application/json,.json"
					class="sr-only"
					onchange={(event) => take(event.currentTarget.files)}
				/></label
			>
			<button type="button" class="act" onclick={() => (making = !making)}>New line</button>
		</div>
		{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
		{#if making}
			<form class="sheet new" onsubmit={make}>
				<label
					>Site
					<select class="field" bind:value={fresh.site}>
						{#each round?.sites ?? [] as site (site.id)}<option value={site.id}>{site.name}</option>{/each}
						<option value="new">A new site …</option>
					</select>
				</label>
				{#if fresh.site === 'new'}
					<label>Name of the site <input class="field" bind:value={fresh.siteName} required /></label>
				{/if}
				<label>Tag <input class="field" bind:value={fresh.tag} required placeholder="CW-BST-3" /></label>
				<label
					>What it is <input class="field" bind:value={fresh.title} placeholder="cold-water booster" /></label
				>
				<label
					>Application
					<select class="field" bind:value={fresh.application}>
						{#each applications as [id, label] (id)}<option value={id}>{label}</option>{/each}
					</select>
				</label>
				<button class="act">Make it</button>
			</form>
		{/if}
		{#each drawn as { site, lines } (site.id)}
			<section>
				<h2>
					{site.name}
					<span
						>{site.lines.length}
						{site.lines.length === 1 ? 'line' : 'lines'}{site.stops
							? `, ${site.stops} ${site.stops === 1 ? 'stop' : 'stops'} open`
							: ''}{site.units === 'us' ? ', US units' : ''}{site.saved
							? `, ${session.show(site.saved, 'energy')} a year modelled`
							: ''}</span
					>
				</h2>
				<ul class="sheet">
					{#each lines as line (line.id)}
						<li>
							<a href="/line/{line.id}/{stageInHand(line)}">
								<span class="tag"><b class="num">{line.tag}</b><small>{line.title}</small></span>
								<span><Stages stages={stagesOf(line)} /><small>{line.words}</small></span>
								<span class="headline" data-severity={line.severity}
									><Mark severity={line.severity} /><em>{line.headline}</em></span
								>
								<span class="say">{inShort(line)}</span>
								<span class="say when"
									>{when(line.updated_at)}{#if session.waiting[line.id]}<b
											>{session.waiting[line.id]} waiting to be sent</b
										>{/if}</span
								>
							</a>
						</li>
					{/each}
				</ul>
			</section>
		{:else}
			{#if round}
				<p class="say">
					{every.length
						? 'Nothing is called so, here or among what you filter by.'
						: 'No lines yet. “New line” begins one: nameplates first, power later.'}
				</p>
			{/if}
		{/each}
		{#key most}
			{#if count > most}<p class="say" use:further>{count - most} more</p>{/if}
		{/key}
	</main>
</div>

<style>
	.whole {
		display: grid;
		grid-template-rows: 48px minmax(0, 1fr);
		min-height: 0;
	}
	h1 {
		font-size: 17px;
		font-weight: 650;
	}
	.quiet {
		color: var(--ink-3);
	}
	main {
		overflow: auto;
		position: relative;
		padding: 14px 20px 30px;
	}
	.tools {
		display: flex;
		gap: 10px;
		align-items: center;
		flex-wrap: wrap;
	}
	.find {
		flex: 0 1 380px;
		font-family: var(--sans);
		font-weight: 400;
		min-height: 38px;
	}
	.gap {
		flex: 1;
	}
	.chip {
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		background: none;
		color: var(--ink-2);
		padding: 6px 11px;
		min-height: 36px;
		cursor: pointer;
	}
	.chip[aria-pressed='true'] {
		background: var(--ink);
		color: var(--sheet);
	}
	.problem {
		color: var(--stop);
		font-weight: 600;
		margin-top: 10px;
	}
	.new {
		display: flex;
		gap: 12px;
		flex-wrap: wrap;
		align-items: end;
		padding: 14px;
		margin-top: 12px;
	}
	.new label {
		display: grid;
		gap: 3px;
		font-size: 13px;
		color: var(--ink-2);
	}
	section {
		margin-top: 20px;
	}
	h2 span {
		font-weight: 400;
		font-size: 13.5px;
		color: var(--ink-3);
		margin-left: 10px;
	}
	ul {
		margin-top: 9px;
	}
	li + li {
		border-top: 1px solid var(--rule);
	}
	li a {
		display: grid;
		grid-template-columns: 180px 210px minmax(0, 1fr) 170px 112px;
		gap: 16px;
		align-items: center;
		padding: 8px 14px;
		min-height: 57px;
		color: inherit;
		text-decoration: none;
	}
	li a:hover {
		background: var(--steel-wash);
	}
	.tag b {
		display: block;
		font-size: 15.5px;
		font-weight: 650;
	}
	small {
		font-size: 12.5px;
		color: var(--ink-3);
		display: block;
		margin-top: 3px;
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.tag {
		overflow: hidden;
	}
	.tag b {
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.headline {
		display: flex;
		gap: 7px;
		align-items: center;
		min-width: 0;
	}
	em {
		font-style: normal;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.headline[data-severity='stop'] em {
		color: var(--stop);
		font-weight: 600;
	}
	.when {
		text-align: right;
	}
	.when b {
		display: block;
		color: var(--caution);
	}
	@media (max-width: 1000px) {
		li a {
			grid-template-columns: 150px 130px minmax(0, 1fr);
		}
		li a > :nth-child(4),
		li a > :nth-child(5) {
			display: none;
		}
	}
</style>
