<script lang="ts">
	/** Survey: one bench for the selected station, verdicts while typing. */
	import { tick } from 'svelte';
	import type { Schemas } from '$lib/api/client';
	import ChoiceField from '$lib/components/ChoiceField.svelte';
	import CurveBench from '$lib/components/CurveBench.svelte';
	import Finding from '$lib/components/Finding.svelte';
	import FlagsField from '$lib/components/FlagsField.svelte';
	import Limits from '$lib/components/Limits.svelte';
	import PlatePhoto from '$lib/components/PlatePhoto.svelte';
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
	const asked = $derived(fields.filter((f) => line.asks(f)));
	const needed = $derived(asked.filter((f) => !f.more));
	const extra = $derived(asked.filter((f) => f.more));
	let onDemand = $state<Record<string, boolean>>({});
	const showMore = $derived(onDemand[station] ?? false);
	const sections = $derived.by(() => {
		const shown = showMore ? extra : needed;
		return [...new Set(shown.map((f) => f.tab))].map((tab) => ({
			tab,
			fields: shown.filter((f) => f.tab === tab)
		}));
	});
	const read = $derived(needed.filter((f) => line.entry(f.path) !== undefined).length);
	const readMore = $derived(extra.filter((f) => line.entry(f.path) !== undefined).length);

	const ORDER = ['supply', 'drive', 'motor', 'machine', 'system', 'sensor'];
	const following = $derived(ORDER[ORDER.indexOf(station) + 1]);
	const plated = $derived(station !== 'system');

	/** From the last field straight to the first of the next station, as one walks along the line. */
	async function walkOn(): Promise<void> {
		if (!following) return;
		onDemand = { ...onDemand, [following]: false };
		line.selected = following;
		await tick();
		document.querySelector<HTMLElement>('.fields input, .fields select')?.focus();
		document.querySelector('.bench')?.scrollTo({ top: 0 });
	}

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
			.map((path) => asked.find((f) => f.path === path))
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
	let question = 0;
	$effect(() => {
		const key = sheetKey;
		void line.assessment; // again with every verdict: the numbers in it may be others
		const mine = ++question;
		if (!key) {
			sheet = null;
			return;
		}
		line
			.workingOf(key)
			.then((found) => {
				if (mine === question) sheet = found;
			})
			.catch(() => {
				if (mine === question) sheet = null;
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
		machine: 'Pump or fan',
		system: 'System',
		sensor: 'Sensor and setpoint'
	};
	const name = $derived(
		station === 'machine' && line.assessment?.traits.includes('fan')
			? 'Fan'
			: station === 'machine' && line.assessment?.traits.includes('pump')
				? 'Pump'
				: (NAMES[station] ?? '')
	);
</script>

<svelte:window onkeydown={keys} />

<div class="two">
	<main class="bench">
		<header>
			<h2>{name}</h2>
			<span class="say"
				>{read} of {needed.length} read.{next.length
					? ` Needed next: ${next.map((f) => f.label.toLowerCase()).join(', ')}`
					: ''}</span
			>
		</header>
		<div class="tabs" role="tablist">
			<button
				type="button"
				role="tab"
				aria-selected={!showMore}
				onclick={() => (onDemand = { ...onDemand, [station]: false })}>Asked first</button
			>
			<button
				type="button"
				role="tab"
				aria-selected={showMore}
				disabled={extra.length === 0}
				onclick={() => (onDemand = { ...onDemand, [station]: true })}
				>On demand <span>{readMore ? `${readMore} of ${extra.length}` : extra.length}</span></button
			>
		</div>
		{#key station + String(showMore)}
			<div class="fields" role="tabpanel" aria-label={name} aria-busy={!line.judged}>
				{#each sections as section (section.tab)}
					<h3>{section.tab}</h3>
					{#each section.fields as field (field.path)}
						{#if field.kind === 'quantity'}<QuantityField {field} />
						{:else if field.kind === 'choice'}<ChoiceField {field} />
						{:else if field.kind === 'flags'}<FlagsField {field} />
						{:else if field.kind === 'points'}<PointsField {field} />{/if}
					{/each}
				{:else}
					<p class="say none">
						{showMore ? 'Nothing more to ask here.' : 'Nothing is asked here: the speed comes from outside.'}
					</p>
				{/each}
			</div>
		{/key}
		{#if following}
			<button type="button" class="act on" data-quiet onclick={() => void walkOn()}
				>Next: {NAMES[following]?.toLowerCase()}</button
			>
		{/if}
		{#if station === 'machine' || station === 'system'}
			<CurveBench />
			<Limits limits={line.assessment?.limits ?? []} open={(key) => line.openWorking(key)} />
		{/if}
		{#if sheet}<div class="working"><WorkingSheet working={sheet} /></div>{/if}
	</main>
	<aside class="side" aria-label="Findings">
		{#if plated}<PlatePhoto {station} name={station === 'machine' ? name : (group?.label ?? '')} />{/if}
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
			<Finding
				{finding}
				{apply}
				uphold={(path, why) => line.uphold(path, why)}
				open={(key) => line.openWorking(key)}
				current={i === at}
			/>
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
	.tabs button:disabled {
		opacity: 0.5;
		cursor: default;
	}
	.tabs span {
		font: 500 12.5px var(--mono);
		color: var(--ink-3);
		padding-left: 3px;
	}
	.fields h3 {
		font-size: 13px;
		font-weight: 650;
		color: var(--ink-3);
		padding: 12px 0 2px;
	}
	.fields {
		max-width: 860px;
	}
	.none {
		padding: 14px 0;
	}
	.on {
		margin-top: 14px;
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
