<script lang="ts">
	/** At the keypad: one parameter at a time, large, in the drive's own order; dial, read back, next. */
	import Dialled from '$lib/keypad/Dialled.svelte';
	import KeypadBar from '$lib/keypad/KeypadBar.svelte';
	import KeyList from '$lib/keypad/KeyList.svelte';
	import ReadBack from '$lib/keypad/ReadBack.svelte';
	import { KeypadPage } from '$lib/keypad/keypad-page.svelte';
	import { openLine } from '$lib/line/context';
	import { session } from '$lib/session.svelte';

	const line = openLine();
	const at = new KeypadPage(line);
	const step = $derived(at.step);
	const view = $derived(at.view);
	let field: HTMLInputElement | undefined = $state();
	let touched = 0;

	$effect(() => {
		void line.version;
		void at.load();
		return () => at.again.stop();
	});
	$effect(() => {
		void step?.setting;
		field?.focus();
	});

	function keys(event: KeyboardEvent): void {
		const elsewhere =
			event.target instanceof HTMLElement && event.target.closest('input, textarea, select, button, a');
		if (event.ctrlKey || event.metaKey || event.altKey || (elsewhere && event.target !== field)) return;
		if (at.text && event.target === field) return; // the arrows move in what is typed
		if (event.key === 'ArrowRight' || event.key === 'ArrowDown') at.move(1);
		else if (event.key === 'ArrowLeft' || event.key === 'ArrowUp') at.move(-1);
		else return;
		event.preventDefault();
	}

	function swiped(event: TouchEvent): void {
		const moved = (event.changedTouches[0]?.clientX ?? 0) - touched;
		if (Math.abs(moved) > 70) at.move(moved < 0 ? 1 : -1);
	}
</script>

<svelte:window onkeydown={keys} />

<main
	class="two"
	style="--wide: 400px; --narrow: 300px"
	data-folds
	ontouchstart={(event) => (touched = event.changedTouches[0]?.clientX ?? 0)}
	ontouchend={swiped}
>
	<section class="hand">
		{#if view && step}
			<header>
				<b>{view.family_name} keypad</b>
				<span
					>{at.done} of {view.steps.length} read back{at.differing
						? `, ${at.differing} left that differ`
						: ''}</span
				>
				<a href="/line/{line.id}/settings">The whole sheet</a>
			</header>
			<div
				class="bar"
				role="progressbar"
				aria-valuenow={at.done}
				aria-valuemax={view.steps.length}
				aria-label="Read back"
			>
				<i style="width: {(100 * at.done) / view.steps.length}%"></i>
			</div>
			<Dialled {step} />
			<ReadBack {at} {step} bind:field />
			{#if at.problem}<p class="problem" role="alert">{session.words(at.problem)}</p>{/if}
			<div class="acts">
				<button type="button" class="act" data-quiet onclick={() => at.move(-1)} disabled={at.at === 0}
					>Back</button
				>
				<button
					type="button"
					class="act"
					onclick={() => void at.keep()}
					disabled={(step.text === '?' || at.moment === 'found') && !at.text}
					>{at.text.trim()
						? `It reads ${at.text.trim()}: next`
						: at.moment === 'found'
							? 'Type what it reads'
							: 'Same: next'}</button
				>
				<button
					type="button"
					class="act"
					data-quiet
					onclick={() => at.move(1)}
					disabled={at.at >= at.steps.length - 1}>Skip</button
				>
			</div>
		{:else if view}
			<h2>{view.family_name} keypad</h2>
			<p class="say">
				{view.family === 'neutral'
					? 'No family is chosen for this drive. Choose one in the survey, at the drive, or make one from its manual.'
					: 'Nothing can be dialled yet: the record has to say more.'}
			</p>
			<p class="acts2">
				<a class="act" href="/families">Families of drives</a>
				<a class="act" data-quiet href="/line/{line.id}/survey">To the survey</a>
			</p>
		{:else if at.problem}<p class="problem" role="alert">{at.problem}</p>{/if}
	</section>
	<aside>
		{#if view?.steps.length}
			<KeypadBar {at} />
			{#each view.older as older (older.digest)}
				<details class="older">
					<summary
						>{older.settings} read back by an older version of the map{older.changes.length
							? `: ${older.changes.length} dialled otherwise now`
							: '; nothing of them has changed'}</summary
					>
					{#each older.changes as change (change.number)}<p>
							<b class="num">{change.number}</b>
							{change.words}
						</p>{/each}
				</details>
			{/each}
			<KeyList {at} />
			{#if view.without.length}
				<details class="older">
					<summary>{view.without.length} of the sheet have no parameter in this family</summary>
					<p>{view.without.join(', ')}.</p>
					<p><a href="/families/{view.family}?line={line.id}">Map them</a></p>
				</details>
			{/if}
		{/if}
	</aside>
</main>

<style>
	.hand {
		overflow: auto;
		padding: 14px 22px 18px;
		display: flex;
		flex-direction: column;
	}
	aside {
		overflow: auto;
		border-left: 1px solid var(--rule);
		background: var(--sheet);
		padding: 10px 12px;
	}
	header {
		display: flex;
		gap: 14px;
		align-items: baseline;
		font-size: var(--t3);
		margin-bottom: 6px;
	}
	header span {
		color: var(--ink-2);
		flex: 1;
	}
	.bar {
		height: 8px;
		background: var(--rule);
		border-radius: 4px;
		overflow: hidden;
		margin-bottom: 8px;
		flex: none;
	}
	.bar i {
		display: block;
		height: 8px;
		background: repeating-linear-gradient(90deg, var(--brass-a) 0 10px, var(--brass-b) 10px 15px);
	}
	.problem {
		margin-top: 8px;
	}
	.acts {
		display: grid;
		grid-template-columns: 130px minmax(0, 1fr) 130px;
		gap: 12px;
		margin-top: auto;
		padding-top: 14px;
		position: sticky;
		bottom: -18px;
		padding-bottom: 10px;
		background: var(--ground);
	}
	.acts button {
		min-height: 62px;
		font-size: var(--t4);
	}
	.acts2 {
		display: flex;
		gap: 10px;
		margin-top: 12px;
	}
	.older {
		font-size: var(--t2);
		color: var(--ink-2);
		padding: 8px 4px;
	}
	@media (max-width: 600px) {
		.acts {
			grid-template-columns: 84px minmax(0, 1fr) 84px;
		}
	}
</style>
