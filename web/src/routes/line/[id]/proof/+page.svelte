<script lang="ts">
	/** Proof: the motor's load three ways, with what each way is worth. */
	import { session } from '$lib/session.svelte';
	import { answer, api, type Schemas } from '$lib/api/client';
	import Num from '$lib/components/Num.svelte';
	import { openLine } from '$lib/line/context';

	const line = openLine();
	const open = (key: string) => line.openWorking(key);
	let proof = $state.raw<Schemas['ProofView'] | null>(null);
	let problem = $state('');

	$effect(() => {
		void line.version;
		answer(api.GET('/api/lines/{line_id}/proof', { params: { path: { line_id: line.id } } }))
			.then((found) => (proof = found))
			.catch((error: Error) => (problem = error.message));
	});

	const LABELS: Record<string, string> = {
		reference: 'Drive frequency',
		speed: 'Speed',
		current: 'Current',
		power: 'Power to the motor',
		pressure: 'Outlet pressure'
	};
	const SCALE = 1.3; // the bar ends at 130 % load
	const place = (value: number) => `${Math.min(100, (value / SCALE) * 100)}%`;
	const best = $derived(proof?.estimates.find((e) => e.load));
</script>

<main>
	{#if problem}<p class="problem">{problem}</p>{/if}
	{#if proof && !proof.kept}
		<h2>Not proven yet</h2>
		<p class="say">{session.words(proof.missing)}. It is read in the run sheet, at full speed.</p>
		<a class="act" href="/line/{line.id}/run">To the run sheet</a>
	{:else if proof}
		<div class="two" data-folds style:--wide="340px" style:gap="28px" style:width="100%">
			<section>
				<h2>How hard the motor works</h2>
				<p class="say">One reading at full speed, three estimates. Believe the upper ones first.</p>
				<div class="scale" aria-hidden="true">
					<span style:left={place(0.5)}>50 %</span><span style:left={place(1)}>100 %</span>
				</div>
				{#each proof.estimates as estimate, i (estimate.id)}
					<article>
						<h3>{estimate.title}</h3>
						{#if estimate.load && estimate.low && estimate.high}
							<p class="load"><Num figure={estimate.load} {open} /></p>
							<div class="bar" role="img" aria-label="{estimate.title}: between the bounds">
								<i class="full" style:left={place(1)}></i>
								<i
									class="band"
									data-best={i === 0}
									style:left={place(estimate.low.value)}
									style:width="calc({place(estimate.high.value)} - {place(estimate.low.value)})"
								></i>
								<i class="point" style:left={place(estimate.load.value)}></i>
							</div>
							<p class="say">
								between <Num figure={estimate.low} {open} /> and <Num figure={estimate.high} {open} />. {estimate.worth}
							</p>
						{:else}
							<p class="say">{session.words(estimate.missing)}. {estimate.worth}</p>
						{/if}
					</article>
				{/each}
			</section>
			<aside class="sheet">
				<h2>Full-speed reading</h2>
				{#each Object.entries(proof.readings) as [name, figure] (name)}
					<p class="row"><span>{LABELS[name] ?? name}</span><b class="num"><Num {figure} {open} /></b></p>
				{/each}
				<h2 class="gap">What follows</h2>
				{#if best?.load}<p class="row">
						<span>Load, best estimate</span><b class="num"><Num figure={best.load} {open} /></b>
					</p>{/if}
				{#if proof.efficiency}<p class="row">
						<span>Motor efficiency there</span><b class="num"><Num figure={proof.efficiency} {open} /></b>
					</p>{/if}
				<p class="say note">
					The drive's own power display is usually the power to the motor, within a few percent. Amps alone
					say little below half load: most of them only magnetise.
				</p>
			</aside>
		</div>
	{/if}
</main>

<style>
	main {
		overflow: auto;
		padding: 18px 24px 30px;
		display: grid;
		align-content: start;
		gap: 12px;
		justify-items: start;
	}
	.scale {
		position: relative;
		height: 18px;
		margin: 14px 0 0 190px;
		font: 12px var(--mono);
		color: var(--ink-3);
	}
	.scale span {
		position: absolute;
		transform: translateX(-50%);
	}
	article {
		display: grid;
		grid-template-columns: 90px 100px minmax(0, 1fr);
		align-items: center;
		padding: 12px 0;
		border-bottom: 1px solid var(--rule);
	}
	article h3 {
		font-size: 15px;
		color: var(--ink);
	}
	.load {
		font-size: 21px;
		font-weight: 650;
	}
	.bar {
		position: relative;
		height: 22px;
		background: var(--well);
		border-radius: var(--r);
	}
	.bar i {
		position: absolute;
		top: 0;
		bottom: 0;
	}
	.band {
		background: var(--steel);
		opacity: 0.35;
	}
	.band[data-best='true'] {
		opacity: 0.6;
	}
	.point {
		width: 3px;
		margin-left: -1.5px;
		background: var(--ink);
	}
	.full {
		width: 0;
		border-left: 1.5px dashed var(--stop);
	}
	article .say {
		grid-column: 2 / 4;
		margin-top: 5px;
	}
	aside {
		padding: 14px 16px;
		align-self: start;
	}
	.row {
		display: flex;
		justify-content: space-between;
		padding: 7px 0;
		border-bottom: 1px solid var(--rule);
	}
	.gap {
		margin-top: 16px;
	}
	.note {
		margin-top: 12px;
	}
	.problem {
		color: var(--stop);
	}
</style>
