<script lang="ts">
	/** The curves of the line being typed: drag the duty point to see what speed and power it would take. */
	import { answer, api, ApiProblem, type Schemas } from '../api/client';
	import { openLine } from '../line/context';
	import { session } from '../session.svelte';
	import CurveChart from './CurveChart.svelte';

	const line = openLine();
	const body = $derived({
		record: line.record,
		site_id: line.line?.site_id ?? null,
		line_id: line.line?.id ?? null
	});

	let curves = $state.raw<Schemas['CurvesView'] | null>(null);
	let at = $state.raw<{ flow: number; rise: number } | null>(null);
	let point = $state.raw<Schemas['PointView'] | null>(null);
	let problem = $state('');
	let asked = 0;
	let timer: ReturnType<typeof setTimeout> | undefined;

	$effect(() => {
		const wanted = body;
		clearTimeout(timer);
		timer = setTimeout(() => void read(wanted), 120);
		return () => clearTimeout(timer);
	});

	async function read(wanted: typeof body): Promise<void> {
		const mine = ++asked;
		try {
			const found = await answer(api.POST('/api/curves', { body: wanted }));
			if (mine !== asked) return;
			curves = found;
			if (at) await probe();
		} catch {
			/* the verdicts say what is wrong; the last curves stay */
		}
	}

	let probing = false;
	let again = false;
	/** One question at a time; the latest point always gets its answer. */
	async function probe(): Promise<void> {
		if (!at) return;
		if (probing) {
			again = true;
			return;
		}
		probing = true;
		try {
			const here = at;
			point = await answer(
				api.POST('/api/curves/point', { body: { ...body, flow: here.flow, rise: here.rise } })
			);
			problem = '';
		} catch (error) {
			point = null;
			problem = error instanceof ApiProblem ? error.message : '';
		}
		probing = false;
		if (again) {
			again = false;
			await probe();
		}
	}

	function drag(where: { flow: number; rise: number }): void {
		at = where;
		void probe();
	}

	function back(): void {
		at = null;
		point = null;
		problem = '';
	}

	const label = $derived(
		at && point
			? `${session.show(point.frequency, 'frequency')}, ${session.show(point.shaft_power, 'power')} at the shaft`
			: ''
	);
	const open = (key: string) => line.openWorking(key);
</script>

<section class="sheet" aria-label="Curves">
	{#if curves?.machine.length}
		<CurveChart {curves} {at} {drag} {label} {open} height={290} />
		<p class="say" aria-live="polite">
			{#if at && point}
				{session.show(at.flow, curves.flow_dimension)} at {session.show(at.rise, curves.rise_dimension)} would take
				<b>{session.show(point.frequency, 'frequency')}</b>, {session.show(point.speed, 'speed')},
				<b>{session.show(point.shaft_power, 'power')}</b> at the shaft{point.input_power
					? `, ${session.show(point.input_power, 'input_power')} from the line`
					: ''}.
				{#each point.warnings as warning (warning)}<em>{warning[0]?.toUpperCase()}{warning.slice(1)}.</em>
				{/each}
				<button type="button" onclick={back}>Back to the duty point</button>
			{:else if problem}<em>{problem}</em>
				<button type="button" onclick={back}>Back to the duty point</button>
			{:else}Drag the point, or move it with the arrow keys, to see what speed and power it takes.{/if}
		</p>
	{:else}
		<p class="say pad">Curves: {session.words(curves?.missing || 'reading …')}</p>
	{/if}
</section>

<style>
	section {
		margin-top: 14px;
		max-width: 780px;
	}
	p {
		padding: 4px 12px 10px;
		min-height: 44px;
	}
	em {
		font-style: normal;
		font-weight: 600;
		color: var(--caution);
	}
	button {
		color: var(--steel);
		font-weight: 600;
		background: none;
		border: 0;
		padding: 4px 2px;
		text-decoration: underline;
		cursor: pointer;
	}
	.pad {
		padding: 14px;
	}
</style>
