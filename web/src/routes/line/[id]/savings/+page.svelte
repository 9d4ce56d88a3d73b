<script lang="ts">
	/** Savings: throttled against slowed over the year, the money, and why the cube law would be wrong. */
	import { answer, api, type Schemas } from '$lib/api/client';
	import EnergyChain from '$lib/components/EnergyChain.svelte';
	import Num from '$lib/components/Num.svelte';
	import PointsField from '$lib/components/PointsField.svelte';
	import QuantityField from '$lib/components/QuantityField.svelte';
	import { openLine } from '$lib/line/context';
	import LevelTable from '$lib/savings/LevelTable.svelte';
	import { session } from '$lib/session.svelte';

	const line = openLine();
	const open = (key: string) => line.openWorking(key);
	let savings = $state.raw<Schemas['SavingsView'] | null>(null);
	let problem = $state('');
	let editing = $state(false);

	$effect(() => {
		void line.version;
		answer(api.GET('/api/lines/{line_id}/savings', { params: { path: { line_id: line.id } } }))
			.then((found) => (savings = found))
			.catch((error: Error) => (problem = error.message));
	});

	const fields = $derived(session.groups.find((g) => g.id === 'duty')?.fields ?? []);
	const fan = $derived(line.assessment?.traits.includes('fan') ?? false);
	const profile = $derived(fields.find((f) => f.name === (fan ? 'air_profile' : 'profile')));
	const cost = $derived(fields.find((f) => f.name === 'cost'));
	const site = $derived(
		(line.line?.record ?? {}) as Record<string, Record<string, { value: number | string }>>
	);
	const currency = $derived(String(site['site']?.['currency']?.value ?? ''));
	const price = $derived(site['site']?.['energy_price']?.value);
	const figures = $derived(savings?.figures ?? {});
	const most = $derived(Math.max(...(savings?.chains.map((c) => c.taken.value) ?? [1])));
</script>

{#if problem}<p class="problem">{problem}</p>{/if}
<div class="two" data-folds style:--wide="336px">
	<main>
		{#if savings?.known}
			<div class="big">
				<div>
					{#if figures['saved']}<b><Num figure={figures['saved']} unit={false} digits={3} {open} /></b>{/if}
					<span
						>kWh a year{#if figures['fraction']}, <Num
								figure={figures['fraction']}
								digits={3}
								{open}
							/>{/if}</span
					>
					<p class="say">modelled from {fan ? 'fan' : 'pump'}, motor and drive; not yet measured</p>
				</div>
				<div>
					{#if figures['payback']}
						<b><Num figure={figures['payback']} unit={false} digits={2} {open} /></b>
						<span>years to pay back</span>
						<p class="say">
							{#if figures['money']}<Num figure={figures['money']} digits={4} {open} />
								{currency} a year at the site's tariff{/if}
						</p>
					{:else}<p class="say">
							{session.words(savings.missing.join('; '))}. <a href="/site/{line.line?.site_id}">Site facts</a>
						</p>{/if}
				</div>
				<button class="act" data-quiet onclick={() => (editing = !editing)}
					>{editing ? 'Hide the inputs' : 'Duty and cost'}</button
				>
			</div>
		{:else if savings}
			<h2>Not known yet</h2>
			<p class="say">
				{session.words(savings.missing.join('; '))}. Enter the hours at five flow levels and what was spent;
				prices are
				<a href="/site/{line.line?.site_id}">facts of the site</a>.
			</p>
		{/if}
		{#if editing || (savings && !savings.known)}
			<section class="sheet inputs">
				{#if profile}<PointsField field={profile} least={5} />{/if}
				{#if cost}<QuantityField field={cost} />{/if}
			</section>
		{/if}
		{#if savings?.known}
			<section class="sheet chains">
				{#each savings.chains as chain (chain.name)}<EnergyChain {chain} {most} {open} />{/each}
			</section>
			<LevelTable {savings} {fan} {open} />
		{/if}
	</main>
	{#if savings?.known}
		<aside>
			<h2>Why not the cube law</h2>
			<p class="say">
				It would promise {#if figures['cube_saved']}<Num
						figure={figures['cube_saved']}
						digits={3}
						{open}
					/>{/if}. What it leaves out here:
			</p>
			{#each savings.cube_gap as part (part.name)}
				<p class="row"><span>{part.name}</span><b>−<Num figure={part.energy} digits={3} {open} /></b></p>
			{/each}
			<h2 class="gap">Money</h2>
			<p class="row">
				<span>Energy</span><b class="num"
					>{typeof price === 'number' ? session.units.number(price, 'energy_price', session.system) : '–'}
					{currency} / kWh</b
				>
			</p>
			<p class="row">
				<span>Spent</span><b class="num"
					>{line.entry('duty.cost')
						? session.units.number(
								Number(line.entry('duty.cost')?.value),
								'money',
								session.system,
								undefined,
								6
							)
						: '–'}
					{currency}</b
				>
			</p>
			{#if figures['demand_saved']}
				<p class="row">
					<span>Peak saved</span><b class:loss={figures['demand_saved'].value < 0}
						><Num figure={figures['demand_saved']} {open} /></b
					>
				</p>
			{/if}
			{#if figures['present_value']}
				<p class="row">
					<span>Net present value, {savings.years} years, {(savings.discount * 100).toFixed(0)} %</span><b
						><Num figure={figures['present_value']} digits={4} {open} /></b
					>
				</p>
			{/if}
			{#if figures['emission']}
				<p class="row">
					<span>CO₂, the site's factor</span><b><Num figure={figures['emission']} {open} /></b>
				</p>
			{/if}
			{#if (figures['demand_saved']?.value ?? 0) < 0}
				<div class="note">
					<b>At full flow it takes more</b>
					<p>The drive adds its own loss there: the peak is not saved, it grows a little.</p>
				</div>
			{/if}
		</aside>
	{/if}
</div>

<style>
	main {
		padding: 12px 18px 24px;
		overflow: auto;
		position: relative;
	}
	.big {
		display: grid;
		grid-template-columns: 1fr 1fr auto;
		align-items: start;
		gap: 20px;
	}
	.big b {
		font-size: 33px;
		line-height: 1.1;
		font-weight: 650;
	}
	.big span {
		color: var(--ink-2);
		font-weight: 600;
	}
	.inputs {
		padding: 4px 16px 12px;
		margin-top: 10px;
	}
	.chains {
		padding: 14px 16px 4px;
		margin-top: 12px;
	}
	.sheet {
		margin-top: 12px;
	}
	.loss {
		color: var(--stop);
	}
	aside {
		border-left: 1px solid var(--rule);
		background: var(--sheet);
		padding: 14px 16px;
		overflow: auto;
		position: relative;
	}
	.row {
		display: flex;
		justify-content: space-between;
		gap: 12px;
		padding: 7px 0;
		border-bottom: 1px solid var(--rule);
		font-size: 14.5px;
	}
	.row b {
		font-weight: 650;
		white-space: nowrap;
	}
	.gap {
		margin-top: 18px;
	}
	.note {
		margin-top: 14px;
		background: var(--caution-wash);
		border-left: 4px solid var(--caution);
		padding: 10px 12px;
		font-size: 13.5px;
	}
	.note b {
		color: var(--caution);
	}
	.problem {
		color: var(--stop);
		padding: 12px;
	}
</style>
