<script lang="ts">
	/** Survey: one bench for the selected station, verdicts while typing. */
	import type { Schemas } from '$lib/api/client';
	import ChoiceField from '$lib/components/ChoiceField.svelte';
	import Finding from '$lib/components/Finding.svelte';
	import PointsField from '$lib/components/PointsField.svelte';
	import QuantityField from '$lib/components/QuantityField.svelte';
	import WorkingSheet from '$lib/components/WorkingSheet.svelte';
	import { openLine } from '$lib/line/context';
	import { session } from '$lib/session.svelte';

	const line = openLine();

	/** A joint is entered at the station after it; the sensor's bench also holds what is wanted of the loop. */
	const station = $derived(
		line.selected.includes('-') ? (line.selected.split('-')[0] ?? 'supply') : line.selected
	);
	const group = $derived(session.groups.find((g) => g.id === station));
	const fields = $derived<Schemas['FieldView'][]>([
		...(station === 'supply' ? (session.groups.find((g) => g.id === 'line')?.fields ?? []) : []).map((f) => ({
			...f,
			tab: 'Line'
		})),
		...(group?.fields ?? []),
		...(station === 'sensor' ? (session.groups.find((g) => g.id === 'control')?.fields ?? []) : [])
	]);
	const tabs = $derived([...new Set(fields.map((f) => f.tab))]);
	let chosenTab = $state<Record<string, string>>({});
	const first = $derived(station === 'supply' ? 'Supply' : (tabs[0] ?? ''));
	const tab = $derived(chosenTab[station] ?? first);
	const shown = $derived(fields.filter((f) => f.tab === tab));
	const read = $derived(fields.filter((f) => line.entry(f.path) !== undefined).length);

	const here = $derived(
		(line.assessment?.findings ?? []).filter((f) =>
			line.selected.includes('-') ? f.place === line.selected : f.place.split('-').includes(station)
		)
	);
	const counts = $derived(
		(['stop', 'caution', 'unknown'] as const)
			.map((s) => [here.filter((f) => f.severity === s).length, s] as const)
			.filter(([n]) => n > 0)
	);
	const elsewhere = $derived(
		(line.assessment?.findings ?? []).filter((f) => f.severity === 'stop' && !here.includes(f))
	);
	const next = $derived(
		[...new Set(here.flatMap((f) => f.needs))]
			.map((path) => fields.find((f) => f.path === path))
			.filter((f) => f !== undefined)
			.slice(0, 3)
	);

	/** The figure whose working stands beneath the fields, once it is known. */
	const FIGURES: Record<string, string> = {
		drive: 'drive_amps',
		motor: 'slip',
		machine: 'duty_power',
		system: 'setpoint_head',
		sensor: 'hold_frequency'
	};
	const sheetKey = $derived.by(() => {
		const judged = line.assessment;
		if (station !== 'supply') return judged?.figures[FIGURES[station] ?? '']?.key;
		const balance = judged?.findings.find((f) => f.id === 'supply_is_balanced');
		return balance?.because.find((part) => part.figure)?.figure?.key;
	});
	let sheet = $state.raw<Schemas['WorkingView'] | null>(null);
	let asked = 0;
	$effect(() => {
		const key = sheetKey;
		void line.assessment; // again with every verdict: the numbers in it may be others
		const mine = ++asked;
		if (!key) {
			sheet = null;
			return;
		}
		line
			.workingOf(key)
			.then((found) => {
				if (mine === asked) sheet = found;
			})
			.catch(() => {
				if (mine === asked) sheet = null;
			});
	});

	let at = $state(-1);
	function keys(event: KeyboardEvent): void {
		const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
		if (typing || (event.key !== 'j' && event.key !== 'k')) return;
		at = Math.max(0, Math.min(here.length - 1, at + (event.key === 'j' ? 1 : -1)));
		document.getElementById(`finding-${here[at]?.id}`)?.scrollIntoView({ block: 'nearest' });
	}

	function apply(fix: Schemas['FixView']): void {
		line.set(fix.field, fix.value, 'plate');
	}

	const NAMES: Record<string, string> = {
		supply: 'Supply',
		drive: 'Drive plate',
		motor: 'Motor plate',
		machine: 'Pump',
		system: 'System',
		sensor: 'Sensor and setpoint'
	};
</script>

<svelte:window onkeydown={keys} />

<div class="two">
	<main class="bench">
		<header>
			<h2>{NAMES[station]}</h2>
			<span class="say"
				>{read} of {fields.length} read.{next.length
					? ` Needed next: ${next.map((f) => f.label.toLowerCase()).join(', ')}`
					: ''}</span
			>
		</header>
		<div class="tabs" role="tablist">
			{#each tabs as name (name)}
				<button
					type="button"
					role="tab"
					aria-selected={tab === name}
					onclick={() => (chosenTab = { ...chosenTab, [station]: name })}>{name}</button
				>
			{/each}
		</div>
		{#key station + tab}
			<div class="fields" role="tabpanel">
				{#each shown as field (field.path)}
					{#if field.kind === 'quantity'}<QuantityField {field} />
					{:else if field.kind === 'choice'}<ChoiceField {field} />
					{:else if field.kind === 'points'}<PointsField {field} />{/if}
				{/each}
			</div>
		{/key}
		{#if sheet}<div class="working"><WorkingSheet working={sheet} /></div>{/if}
	</main>
	<aside class="side" aria-label="Findings">
		<header>
			<h2>
				{line.selected.includes('-')
					? `Joint ${line.selected.replace('-', ' – ')}`
					: `At the ${(group?.label ?? '').toLowerCase()} and its joints`}
			</h2>
			<span class="say"
				>{#each counts as [n, word], i (word)}{i ? ', ' : ''}<b data-severity={word} style:color="var(--tone)"
						>{n} {word === 'unknown' ? 'not known' : word}{word === 'stop' && n > 1 ? 's' : ''}</b
					>{/each}</span
			>
		</header>
		{#each here as finding, i (finding.id)}
			<Finding {finding} {apply} open={(key) => line.openWorking(key)} current={i === at} />
		{:else}
			<p class="say">Nothing to judge here yet.</p>
		{/each}
		{#if elsewhere.length}
			<p class="say other">
				{elsewhere.length}
				{elsewhere.length === 1 ? 'stop' : 'stops'} elsewhere:
				{#each elsewhere as finding, i (finding.id)}{i ? ', ' : ''}<button
						type="button"
						onclick={() => (line.selected = finding.place)}>{finding.title.toLowerCase()}</button
					>{/each}
			</p>
		{/if}
	</aside>
</div>

<style>
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 372px;
		min-height: 0;
	}
	.bench {
		padding: 14px 20px 30px;
		overflow: auto;
		position: relative;
	}
	.bench header,
	.side header {
		display: flex;
		align-items: baseline;
		gap: 14px;
	}
	.side header {
		justify-content: space-between;
	}
	.tabs {
		display: flex;
		gap: 18px;
		margin: 8px 0 6px;
		border-bottom: 1px solid var(--rule);
	}
	.tabs button {
		background: none;
		border: 0;
		border-bottom: 2px solid transparent;
		color: var(--ink-2);
		padding: 6px 0;
		font-size: 14px;
		cursor: pointer;
		min-height: 34px;
	}
	.tabs button[aria-selected='true'] {
		color: var(--ink);
		font-weight: 650;
		border-bottom-color: var(--steel);
	}
	.working {
		margin-top: 16px;
		max-width: 640px;
	}
	.side {
		border-left: 1px solid var(--rule);
		background: var(--sheet);
		padding: 14px 16px 30px;
		overflow: auto;
		position: relative;
	}
	.other {
		padding-top: 12px;
	}
	.other button {
		color: var(--stop);
		font-weight: 600;
		text-decoration: underline;
		background: none;
		border: 0;
		padding: 0;
		cursor: pointer;
	}
	@media (max-width: 1000px) {
		.two {
			grid-template-columns: minmax(0, 1fr) 270px;
		}
	}
</style>
