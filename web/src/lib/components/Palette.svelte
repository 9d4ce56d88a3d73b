<script lang="ts">
	/** Go anywhere by typing: lines, stages, methods, units, light and dark. Opened with / or Ctrl K. */
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
	import { answer, api } from '../api/client';
	import { session } from '../session.svelte';

	interface Command {
		label: string;
		hint: string;
		run: () => void;
	}

	let text = $state('');
	let at = $state(0);
	let lines = $state.raw<Command[]>([]);
	let reading: Promise<void> = Promise.resolve();

	const STAGES = ['survey', 'settings', 'run', 'loop', 'proof', 'savings', 'handover', 'trip', 'story'];
	const NAMES: Record<string, string> = { run: 'Run sheet', handover: 'Hand-over', trip: 'Why did it trip?' };
	const here = $derived(page.params['id']);
	const own = $derived<Command[]>([
		...(here
			? STAGES.map((s) => ({
					label: NAMES[s] ?? s[0]?.toUpperCase() + s.slice(1),
					hint: 'this line',
					run: () => void goto(`/line/${here}/${s}`)
				}))
			: []),
		{ label: 'Round', hint: 'every line', run: () => void goto('/') },
		{ label: 'Methods', hint: 'formulas and a calculator', run: () => void goto('/methods') },
		...session.units.systems.map(({ id, label }) => ({
			label: `${label} units`,
			hint: 'for the page',
			run: () => session.setUnits(session.units.known(id))
		})),
		{ label: session.mode === 'dark' ? 'Light' : 'Dark', hint: 'theme', run: () => session.toggleMode() }
	]);
	const found = $derived(
		[...lines, ...own].filter((c) => `${c.label} ${c.hint}`.toLowerCase().includes(text.trim().toLowerCase()))
	);

	async function opened(): Promise<void> {
		text = '';
		at = 0;
		const round = await answer(api.GET('/api/round')).catch(() => ({ sites: [] }));
		lines = round.sites.flatMap((site) =>
			site.lines.map((line) => ({
				label: `${line.tag} ${line.title}`,
				hint: site.name,
				run: () => void goto(`/line/${line.id}/survey`)
			}))
		);
	}

	function choose(command: Command | undefined): void {
		if (!command) return;
		session.paletteOpen = false;
		command.run();
	}

	/** Who types a tag and Enter at once may be faster than the list of lines. */
	async function entered(): Promise<void> {
		await reading;
		if (session.paletteOpen) choose(found[at]);
	}

	function keys(event: KeyboardEvent): void {
		if (event.key === 'ArrowDown') at = Math.min(at + 1, found.length - 1);
		else if (event.key === 'ArrowUp') at = Math.max(at - 1, 0);
		else if (event.key === 'Enter') void entered();
		else return;
		event.preventDefault();
	}

	function shortcut(event: KeyboardEvent): void {
		const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
		const wanted = ((event.ctrlKey || event.metaKey) && event.key === 'k') || (event.key === '/' && !typing);
		if (!wanted) return;
		event.preventDefault();
		session.paletteOpen = true;
	}

	$effect(() => {
		if (session.paletteOpen) reading = opened();
	});
</script>

<svelte:window onkeydown={shortcut} />

<Dialog open={session.paletteOpen} onOpenChange={(d) => (session.paletteOpen = d.open)}>
	<Portal>
		<Dialog.Backdrop class="palette-back" />
		<Dialog.Positioner class="palette-place">
			<Dialog.Content class="palette">
				<Dialog.Title class="sr-only">Go to</Dialog.Title>
				<input
					class="field"
					placeholder="A tag, a stage, units, a theme …"
					aria-label="Go to"
					bind:value={text}
					oninput={() => (at = 0)}
					onkeydown={keys}
				/>
				<ul role="listbox" aria-label="Places">
					{#each found.slice(0, 12) as command, i (command.label + command.hint)}
						<li role="option" aria-selected={i === at}>
							<button type="button" onclick={() => choose(command)}
								><b>{command.label}</b><span>{command.hint}</span></button
							>
						</li>
					{/each}
				</ul>
			</Dialog.Content>
		</Dialog.Positioner>
	</Portal>
</Dialog>

<style>
	:global(.palette-back) {
		position: fixed;
		inset: 0;
		z-index: 40;
		background: rgb(20 22 24 / 45%);
	}
	:global(.palette-place) {
		position: fixed;
		inset: 0;
		z-index: 41;
		display: grid;
		justify-items: center;
		align-items: start;
		padding-top: 12vh;
	}
	:global(.palette) {
		width: min(560px, 92vw);
		background: var(--sheet);
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		padding: 10px;
	}
	input {
		width: 100%;
		min-height: 44px;
	}
	ul {
		margin-top: 8px;
	}
	button {
		display: flex;
		justify-content: space-between;
		width: 100%;
		min-height: 40px;
		align-items: center;
		padding: 0 10px;
		background: none;
		border: 0;
		color: var(--ink);
		cursor: pointer;
		border-radius: var(--r);
	}
	li[aria-selected='true'] button {
		background: var(--steel-wash);
	}
	span {
		color: var(--ink-3);
		font-size: var(--t2);
	}
</style>
