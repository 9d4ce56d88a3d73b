<script lang="ts">
	/** Savings: what was there before against the drive over the year, the money, and what the owner is told. */
	import { answer, api, type Schemas } from '$lib/api/client';
	import { Reading } from '$lib/api/reading.svelte';
	import EnergyChain from '$lib/components/EnergyChain.svelte';
	import Fields from '$lib/components/Fields.svelte';
	import Num from '$lib/components/Num.svelte';
	import Tabs from '$lib/components/Tabs.svelte';
	import { openLine } from '$lib/line/context';
	import LevelTable from '$lib/savings/LevelTable.svelte';
	import Money from '$lib/savings/Money.svelte';
	import OwnerPage from '$lib/savings/OwnerPage.svelte';
	import Spots from '$lib/savings/Spots.svelte';
	import Tornado from '$lib/savings/Tornado.svelte';
	import Whole from '$lib/savings/Whole.svelte';
	import { session } from '$lib/session.svelte';

	const line = openLine();
	const open = (key: string) => line.openWorking(key);
	const reading = new Reading<[Schemas['SavingsView'], Schemas['OwnerView']]>();
	const savings = $derived(reading.value?.[0]);
	const owner = $derived(reading.value?.[1]);
	let editing = $state(false);
	let at = $state(location.hash.slice(1) || 'year');

	$effect(() => {
		void line.version;
		const params = { path: { line_id: line.id } };
		return reading.read(() =>
			Promise.all([
				answer(api.GET('/api/lines/{line_id}/savings', { params })),
				answer(api.GET('/api/lines/{line_id}/owner', { params }))
			])
		);
	});

	const TABS = [
		{ id: 'year', label: 'The year' },
		{ id: 'money', label: 'Money' },
		{ id: 'hangs', label: 'What it hangs on' },
		{ id: 'spots', label: 'Spot readings' },
		{ id: 'owner', label: 'For the owner' }
	];
	const fan = $derived(line.assessment?.traits.includes('fan') ?? false);
	const currency = $derived(line.currency);
	const figures = $derived(savings?.figures ?? {});
	const read = $derived(savings !== undefined && savings.told_by !== 'model');
	const most = $derived(Math.max(...(savings?.chains.map((c) => c.taken.value) ?? [1])));

	function choose(id: string): void {
		at = id;
		history.replaceState(history.state, '', `#${id}`);
	}
</script>

{#if reading.problem}<p class="problem" role="alert">{reading.problem}</p>
{:else if !savings}<p class="say wait">Working out the year, both ways …</p>{/if}
<main>
	<div class="top">
		{#if savings?.told_by}
			<div>
				{#if figures['told']}<b
						><Num figure={figures['told']} unit={false} rough={read} digits={3} {open} /></b
					>{/if}
				<span
					>kWh a year{#if figures['told_fraction']}, <Num
							figure={figures['told_fraction']}
							digits={3}
							{open}
						/>{/if}</span
				>
				<p class="say">
					{#if savings.told_by === 'model'}modelled from {fan ? 'fan' : 'pump'}, motor and drive{figures[
							'told_half'
						]
							? ', set right by what was read'
							: ''}{:else}{savings.told_by === 'logs'
							? 'measured'
							: 'by spot readings'}{/if}{#if figures['told_half']}, ± <Num
							figure={figures['told_half']}
							rough
							digits={2}
							{open}
						/>{/if}{#if figures['by_plate'] && savings.told_by === 'model'}; by the plates alone <Num
							figure={figures['by_plate']}
							digits={3}
							{open}
						/>{/if}{#if savings.told_by !== 'model' && savings.modelled !== null}; modelled over the same
						hours
						<span class="num">{session.rough(savings.modelled, 'energy', 3)}</span>{/if}
				</p>
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
		{:else if savings}
			<div>
				<h2>Not known yet</h2>
				<p class="say">
					{session.words(savings.missing.join('; '))}. Enter the hours at five flow levels and what was spent;
					prices are <a href="/site/{line.line?.site_id}">facts of the site</a>.
				</p>
			</div>
		{/if}
		<span class="gap"></span>
		<span class="buttons">
			<a class="act" data-quiet href="/line/{line.id}/proof#measured">Measured</a>
			<button
				type="button"
				class="act"
				data-quiet
				aria-expanded={editing}
				onclick={() => (editing = !editing)}>{editing ? 'Hide the inputs' : 'Duty and cost'}</button
			>
		</span>
	</div>
	{#if editing || (savings && !savings.known)}
		<section class="sheet inputs">
			<Fields group="proof" tabs={['What was there before', 'Control now']} />
			<Fields group="duty" least={5} folded />
		</section>
	{/if}
	{#if savings}
		<Tabs tabs={TABS} {at} {choose} label="The saving">
			<div class="page">
				{#if at === 'year'}
					{#if savings.known}
						<div class="two" data-folds style:--wide="300px" style:gap="16px">
							<div>
								<section class="sheet chains">
									{#each savings.chains as chain (chain.id)}<EnergyChain {chain} {most} {open} />{/each}
									<Whole {savings} {fan} {open} />
								</section>
								<LevelTable {savings} {fan} {open} />
							</div>
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
									<p class="fact">
										<span>{part.name}</span><b>−<Num figure={part.energy} digits={3} {open} /></b>
									</p>
								{/each}
								{#if (figures['demand_saved']?.value ?? 0) < 0}
									<div class="note">
										<b>At full flow it takes more</b>
										<p>The drive adds its own loss there: the peak is not saved, it grows a little.</p>
									</div>
								{/if}
							</aside>
						</div>
					{/if}
				{:else if at === 'money'}<Money {savings} {currency} siteId={line.line?.site_id ?? ''} {open} />
				{:else if at === 'hangs'}<Tornado {savings} {currency} />
				{:else if at === 'spots'}<Spots {savings} {open} />
				{:else if at === 'owner' && owner}<OwnerPage {owner} lineId={line.id} />{/if}
			</div>
		</Tabs>
	{/if}
</main>

<style>
	main {
		padding: 10px 18px 0;
		overflow: auto;
		position: relative;
	}
	.top {
		display: flex;
		align-items: start;
		gap: 12px 40px;
		flex-wrap: wrap;
		padding-bottom: 4px;
	}
	.top b {
		font-size: var(--t6);
		line-height: 1.1;
		font-weight: 650;
	}
	.top span {
		color: var(--ink-2);
		font-weight: 600;
	}
	.gap {
		flex: 1;
	}
	.buttons {
		display: flex;
		gap: 12px;
	}
	.inputs {
		padding: 4px 16px 12px;
		margin: 6px 0 10px;
	}
	.page {
		padding: 12px 2px 26px;
	}
	.chains {
		overflow-x: auto;
		padding: 12px 16px 8px;
	}
	aside {
		padding: 4px 2px;
	}
	.note {
		margin-top: 14px;
		background: var(--caution-wash);
		border-left: 4px solid var(--caution);
		padding: 10px 12px;
		font-size: var(--t2);
	}
	.note b {
		color: var(--caution);
	}
	.problem {
		padding: 12px;
	}
</style>
