<script lang="ts">
	/** Savings: throttled against slowed over the year, the money, and why the cube law would be wrong. */
	import { answer, api, type Schemas } from '$lib/api/client';
	import EnergyChain from '$lib/components/EnergyChain.svelte';
	import Num from '$lib/components/Num.svelte';
	import PointsField from '$lib/components/PointsField.svelte';
	import QuantityField from '$lib/components/QuantityField.svelte';
	import { openLine } from '$lib/line/context';
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
	const totalHours = $derived(savings?.levels.reduce((sum, l) => sum + l.hours.value, 0) ?? 0);
</script>

{#if problem}<p class="problem">{problem}</p>{/if}
<div class="two">
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
					{:else}<p class="say">{savings.missing.join('; ')}</p>{/if}
				</div>
				<button class="act" data-quiet onclick={() => (editing = !editing)}
					>{editing ? 'Hide the inputs' : 'Duty and cost'}</button
				>
			</div>
		{:else if savings}
			<h2>Not known yet</h2>
			<p class="say">{savings.missing.join('; ')}. Enter the hours at five flow levels and what was spent.</p>
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
			<section class="sheet">
				<table>
					<thead>
						<tr>
							<th>Flow {session.units.symbol(fan ? 'air_flow' : 'flow', session.system)}</th>
							<th>Hours a year</th>
							<th>Throttled kW</th>
							<th>Slowed kW</th>
							<th>Speed Hz</th>
							<th>Motor</th>
							<th>Drive</th>
							<th>Saved kWh</th>
							<th>Cube law says</th>
						</tr>
					</thead>
					<tbody>
						{#each savings.levels as level, i (i)}
							<tr>
								<td><Num figure={level.flow} unit={false} {open} /></td>
								<td><Num figure={level.hours} unit={false} /></td>
								<td><Num figure={level.throttled_input} unit={false} {open} /></td>
								<td><Num figure={level.input} unit={false} {open} /></td>
								<td><Num figure={level.frequency} unit={false} {open} /></td>
								<td><Num figure={level.motor_efficiency} {open} /></td>
								<td><Num figure={level.drive_efficiency} {open} /></td>
								<td class:loss={level.saved.value < 0}
									><Num figure={level.saved} unit={false} digits={3} {open} /></td
								>
								<td class="quiet"><Num figure={level.cube_saved} unit={false} digits={3} {open} /></td>
							</tr>
						{/each}
						<tr class="sum">
							<td>All</td>
							<td class="num">{session.units.number(totalHours, 'hours', session.system)}</td>
							<td
								>{#if figures['throttled']}<Num figure={figures['throttled']} digits={3} {open} />{/if}</td
							>
							<td
								>{#if figures['slowed']}<Num figure={figures['slowed']} digits={3} {open} />{/if}</td
							>
							<td></td><td></td><td></td>
							<td
								>{#if figures['saved']}<Num
										figure={figures['saved']}
										unit={false}
										digits={3}
										{open}
									/>{/if}</td
							>
							<td class="quiet"
								>{#if figures['cube_saved']}<Num
										figure={figures['cube_saved']}
										unit={false}
										digits={3}
										{open}
									/>{/if}</td
							>
						</tr>
					</tbody>
				</table>
			</section>
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
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 336px;
		min-height: 0;
	}
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
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: 14.5px;
	}
	th {
		font-size: 12.5px;
		font-weight: 600;
		color: var(--ink-3);
		text-align: right;
		padding: 10px 12px 6px;
		border-bottom: 1.5px solid var(--ink);
	}
	td {
		text-align: right;
		padding: 6px 12px;
		border-bottom: 1px solid var(--rule);
	}
	.sum td {
		font-weight: 650;
		border: 0;
	}
	.quiet {
		color: var(--ink-3);
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
	@media (max-width: 1000px) {
		.two {
			grid-template-columns: minmax(0, 1fr);
			overflow: auto;
		}
	}
</style>
