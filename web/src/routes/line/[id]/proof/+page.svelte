<script lang="ts">
	/** Proof: is the motor well, the drive cool, the machine on its curve; was it measured; how does it drift. */
	import { answer, api, type Schemas } from '$lib/api/client';
	import { Reading } from '$lib/api/reading.svelte';
	import EntryToggle from '$lib/components/EntryToggle.svelte';
	import Facts from '$lib/components/Facts.svelte';
	import Fields from '$lib/components/Fields.svelte';
	import Tabs from '$lib/components/Tabs.svelte';
	import { openLine } from '$lib/line/context';
	import Measured from '$lib/measured/Measured.svelte';
	import Drift from '$lib/proof/Drift.svelte';
	import Known from '$lib/proof/Known.svelte';
	import LoadScale from '$lib/proof/LoadScale.svelte';
	import Looks from '$lib/proof/Looks.svelte';
	import { session } from '$lib/session.svelte';

	const line = openLine();
	const open = (key: string) => line.openWorking(key);
	const reading = new Reading<Schemas['ProofView']>();
	const proof = $derived(reading.value);
	let at = $state(location.hash.slice(1) || 'motor');
	let entering = $state(false);

	$effect(() => {
		void line.version;
		const params = { path: { line_id: line.id } };
		return reading.read(() => answer(api.GET('/api/lines/{line_id}/proof', { params })));
	});

	const TABS = [
		{ id: 'motor', label: 'Motor' },
		{ id: 'machine', label: 'Drive and machine' },
		{ id: 'known', label: 'By what was read' },
		{ id: 'measured', label: 'Measured saving' },
		{ id: 'drift', label: 'Over the visits' }
	];
	const LABELS: Record<string, string> = {
		reference: 'Drive frequency',
		speed: 'Speed',
		current: 'Current',
		power: 'Power to the motor',
		pressure: 'Outlet pressure'
	};
	const places = $derived(Object.fromEntries((proof?.places ?? []).map((p) => [p.id, p])));

	function choose(id: string): void {
		at = id;
		entering = false;
		history.replaceState(history.state, '', `#${id}`);
	}
</script>

<main>
	{#if reading.problem}<p class="problem" role="alert">{reading.problem}</p>
	{:else if !proof}<p class="say">Looking at motor, drive and machine …</p>{/if}
	<Tabs tabs={TABS} {at} {choose} label="What is proven">
		{#if proof && at === 'motor'}
			<div class="two page" data-folds style:--wide="320px">
				<section>
					{#if entering}<div class="sheet fields"><Fields group="proof" tabs={['Motor']} /></div>{/if}
					{#if proof.kept}<LoadScale {proof} {open} />{:else}
						<h2>Not proven yet</h2>
						<p class="say">{session.words(proof.missing)}. It is read in the run sheet, at full speed.</p>
						<a class="act" href="/line/{line.id}/run">To the run sheet</a>
					{/if}
					{#if places['motor']}<div class="looks"><Looks place={places['motor']} {open} /></div>{/if}
				</section>
				<aside class="sheet">
					{#if proof.kept}
						<h2>Full-speed reading</h2>
						<Facts
							{open}
							rows={Object.entries(proof.readings).map(([name, figure]) => ({
								label: LABELS[name] ?? name,
								figure
							}))}
						/>
						<p class="say note">
							The drive's own power display is usually the power to the motor, within a few percent. Amps
							alone say little below half load: most of them only magnetise.
						</p>
					{/if}
					<EntryToggle bind:entering />
					<p class="say note">
						Resistance is measured on the motor's leads: isolated, locked, waited by the drive's label, proven
						dead. Local code and the drive's manual govern.
					</p>
				</aside>
			</div>
		{:else if proof && at === 'machine'}
			<div class="page">
				<div class="over"><EntryToggle bind:entering /></div>
				{#if entering}<div class="sheet fields">
						<Fields group="proof" tabs={['Drive', 'Machine']} />
					</div>{/if}
				{#if places['drive']}<Looks place={places['drive']} {open} />{/if}
				{#if places['machine']}<div class="looks"><Looks place={places['machine']} {open} /></div>{/if}
			</div>
		{:else if proof && at === 'known'}
			<div class="two page" data-folds style:--wide="320px">
				<section>
					{#if entering}<div class="sheet fields">
							<Fields group="proof" tabs={['Readings that tell more']} />
						</div>{/if}
					{#if proof.known?.readings}<Known known={proof.known} {open} says bare />
					{:else}
						<h2>Nothing read yet</h2>
						<p class="say">
							Every row of the run sheet, the hold, and the readings entered here tell what the line is beside
							what its plates promise.
						</p>
					{/if}
				</section>
				<aside class="sheet">
					<p class="say note">
						Wear, gauge and system look alike in the rows of a ladder. One reading of another kind tells them
						apart: at full speed or at rest, everything open.
					</p>
					<EntryToggle bind:entering />
				</aside>
			</div>
		{:else if at === 'measured'}
			<Measured {line} {open} />
		{:else if proof && at === 'drift'}
			<div class="page"><Drift drift={proof.drift} {open} /></div>
		{/if}
	</Tabs>
</main>

<style>
	main {
		overflow: hidden;
		position: relative;
		display: grid;
		grid-template-rows: auto minmax(0, 1fr);
		min-height: 0;
	}
	main > :global(.panel) {
		overflow: auto;
	}
	.page {
		padding: 12px 20px 26px;
		gap: 24px;
	}
	.looks {
		margin-top: 16px;
	}
	aside {
		padding: 12px 16px;
		align-self: start;
	}
	.note {
		margin: 10px 0;
	}
	.fields {
		padding: 4px 16px 12px;
		margin-bottom: 14px;
	}
	.over {
		float: right;
	}
	.over + .fields {
		clear: both;
		margin-top: 46px;
	}
	.problem {
		padding: 8px 20px;
	}
	@media (max-width: 600px) {
		main {
			overflow: visible;
			display: block;
		}
	}
</style>
