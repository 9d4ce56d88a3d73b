<script lang="ts">
	/** Families of drives: each a map from the sheet's settings to one make's numbers and words. */
	import { goto } from '$app/navigation';
	import { answer, api, type Schemas } from '$lib/api/client';
	import { Reading } from '$lib/api/reading.svelte';
	import TopBar from '$lib/components/TopBar.svelte';
	import { freshId, NEW_FAMILY, readFile, type Family } from '$lib/families/family-page.svelte';
	import { session } from '$lib/session.svelte';

	const reading = new Reading<Schemas['FamilySummary'][]>();
	const families = $derived(reading.value ?? []);
	let search = $state('');
	let name = $state('');
	let refused = $state('');
	const problem = $derived(refused || reading.problem);
	const found = $derived(
		families.filter((f) => `${f.name} ${f.about} ${f.fits}`.toLowerCase().includes(search.toLowerCase()))
	);

	$effect(() => reading.read(() => answer(api.GET('/api/families'))));

	async function make(family: Family): Promise<void> {
		if (!(await session.signed())) return;
		try {
			const { id } = family;
			const there = families.find((f) => f.id === id);
			const saved = there && !there.shipped ? freshId(family.name, families) : id;
			await answer(
				api.PUT('/api/families/{family_id}', {
					params: { path: { family_id: saved } },
					body: { revision: 0, family: { ...family, id: saved }, by: session.by }
				})
			);
			await goto(`/families/${saved}`);
		} catch (error) {
			refused = (error as Error).message;
		}
	}

	async function take(event: Event): Promise<void> {
		const file = (event.currentTarget as HTMLInputElement).files?.[0];
		if (!file) return;
		try {
			await make(await readFile(file));
		} catch (error) {
			refused = (error as Error).message;
		}
	}
</script>

<svelte:head><title>Drives · Mainspring</title></svelte:head>

<div class="whole">
	<TopBar><h1>Families of drives</h1></TopBar>
	<main>
		<p class="say">
			A family says what one make calls each setting and what is dialled for it. The four that ship are made
			up; yours you make from the drive’s manual, once.
		</p>
		<div class="tools">
			<input
				class="field"
				type="search"
				placeholder="Search"
				aria-label="Search families"
				bind:value={search}
			/>
			<form
				onsubmit={(event) => {
					event.preventDefault();
					if (name.trim()) void make({ ...NEW_FAMILY, id: freshId(name, families), name: name.trim() });
				}}
			>
				<input
					class="field"
					placeholder="Name of a new family"
					aria-label="Name of a new family"
					bind:value={name}
				/>
				<button class="act" disabled={!name.trim()}>Make it</button>
			</form>
			<label class="act" data-quiet
				>From a file<input
					type="file"
					accept=".json"
					class="sr-only"
					onchange={(event) => void take(event)}
				/></label
			>
		</div>
		{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
		<ul>
			{#each found as family (family.id)}
				<li>
					<a href="/families/{family.id}">
						<b>{family.name}</b>
						<span class="about">{family.about || family.fits || 'No word about it yet.'}</span>
						<span class="num">{family.mapped} of {family.parameters}</span>
						<span class="state"
							>{family.shipped ? 'made up, ships' : `by ${family.by}`}{family.doubtful
								? `, ${family.doubtful} doubtful`
								: ''}{family.proven ? `, ${family.proven} proven on a drive` : ''}</span
						>
					</a>
				</li>
			{/each}
		</ul>
	</main>
</div>

<style>
	.whole {
		display: grid;
		grid-template-rows: 48px minmax(0, 1fr);
		min-height: 0;
		min-width: 0;
	}
	h1 {
		font-size: var(--t4);
		font-weight: 650;
	}
	main {
		overflow: auto;
		padding: 16px 22px 30px;
	}
	.tools,
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
	}
	.tools {
		margin: 12px 0;
	}
	.field {
		font: 500 var(--t3) var(--sans);
		min-height: 40px;
	}
	.act {
		min-height: 40px;
	}
	ul {
		list-style: none;
		padding: 0;
		border-top: 1.5px solid var(--ink);
	}
	li a {
		display: grid;
		grid-template-columns: 140px minmax(0, 1fr) 110px 230px;
		gap: 14px;
		align-items: baseline;
		padding: 12px 4px;
		border-bottom: 1px solid var(--rule);
		color: var(--ink);
		text-decoration: none;
	}
	li a:hover b {
		color: var(--steel);
	}
	li b {
		font-size: var(--t4);
	}
	.about,
	.state {
		color: var(--ink-2);
		font-size: var(--t3);
	}
	.num {
		text-align: right;
	}
	@media (max-width: 1000px) {
		li a {
			grid-template-columns: minmax(0, 1fr) auto;
		}
	}
</style>
