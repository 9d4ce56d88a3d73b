<script lang="ts">
	/** The settings sheet: proposed with its reason, as found, decided, as left, and what a difference does. */
	import { openLine } from '$lib/line/context';
	import { session } from '$lib/session.svelte';
	import AccessCode from '$lib/settings/AccessCode.svelte';
	import Conflicts from '$lib/settings/Conflicts.svelte';
	import GroupList from '$lib/settings/GroupList.svelte';
	import { SettingsPage } from '$lib/settings/settings-page.svelte';
	import OwnParameter from '$lib/settings/OwnParameter.svelte';
	import SheetTable from '$lib/settings/SheetTable.svelte';

	const line = openLine();
	const at = new SettingsPage(line, decodeURIComponent(location.hash.slice(1)));
	const sheet = $derived(at.sheet);
	const open = (key: string) => line.openWorking(key);

	$effect(() => {
		void line.version;
		void at.load();
		return () => at.again.stop();
	});
</script>

<main>
	<GroupList groups={at.groups} />
	<div class="sheet">
		<header>
			<h2>Settings sheet</h2>
			<span class="say">{at.says}</span>
			<span class="gap"></span>
			<button
				type="button"
				class="act"
				data-quiet
				aria-pressed={at.onlyOpen}
				onclick={() => (at.onlyOpen = !at.onlyOpen)}>Only what is open or differs</button
			>
			{#if at.differsPerDrive}
				<button
					type="button"
					class="act"
					data-quiet
					aria-pressed={at.onlyEach}
					onclick={() => (at.onlyEach = !at.onlyEach)}>What differs per drive</button
				>
			{/if}
			<button
				type="button"
				class="act"
				data-quiet
				onclick={() => (at.asking = true)}
				disabled={!sheet?.to_take}>Enter the rest as planned</button
			>
			<a class="act" href="/line/{line.id}/keypad">At the keypad</a>
			{#each Object.entries( { 'settings.csv': 'CSV', 'settings.xlsx': 'XLSX', 'keypad.pdf': 'PDF' } ) as [name, words] (name)}
				<a class="act" data-quiet href="/api/lines/{line.id}/{name}?units={session.system}" download
					>{words}</a
				>
			{/each}
		</header>
		{#if at.asking && sheet}
			<div class="ask" role="alertdialog" aria-label="Enter the rest as planned">
				<p>
					<b>{sheet.to_take} settings as planned, without reading them back?</b> Each is marked so. What was found
					otherwise stays open.
				</p>
				<button type="button" class="act" onclick={() => void at.takePlan()}
					>Enter {sheet.to_take} as planned</button
				>
				<button type="button" class="act" data-quiet onclick={() => (at.asking = false)}>No</button>
			</div>
		{/if}
		{#if at.problem}<p class="problem" role="alert">{session.words(at.problem)}</p>{/if}
		<Conflicts conflicts={sheet?.conflicts ?? []} {open} />
		<SheetTable {at} {open} />
		{#if sheet}<OwnParameter {at} />{/if}
		{#if sheet}<AccessCode line={line.id} />{/if}
		{#if sheet && at.onlyOpen && !at.groups.length}<p class="say">
				Everything is read back and as wanted.
			</p>{/if}
	</div>
</main>

<style>
	main {
		overflow: hidden;
		position: relative;
		display: grid;
		grid-template-columns: 198px minmax(0, 1fr);
	}
	.sheet {
		overflow: auto;
		padding: 12px 18px 30px;
	}
	header {
		display: flex;
		gap: 12px;
		align-items: center;
		flex-wrap: wrap;
	}
	.gap {
		flex: 1;
	}
	.ask {
		display: flex;
		gap: 12px;
		align-items: center;
		padding: 10px 14px;
		margin-top: 8px;
		border: 1.5px solid var(--brass);
		border-radius: var(--r);
		background: var(--sheet);
	}
	.ask p {
		flex: 1;
	}
	@media (max-width: 1000px) {
		main {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
