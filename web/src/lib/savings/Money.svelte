<script lang="ts">
	/** The money: both bills by the site's tariff, and what the saving is worth over the years. */
	import type { Schemas } from '../api/client';
	import Facts from '../components/Facts.svelte';
	import { session } from '../session.svelte';

	let {
		savings,
		currency,
		siteId,
		open
	}: { savings: Schemas['SavingsView']; currency: string; siteId: string; open: (key: string) => void } =
		$props();

	const TOLD: Record<string, string> = {
		logs: 'Saved a year, measured',
		spots: 'Saved a year, by spot readings'
	};
	const by = $derived(savings.told_by in TOLD ? ', modelled' : '');
	const f = $derived(savings.figures);
	const years = $derived(f['years']?.value ?? 10);
	const rate = (name: string): string => `${((f[name]?.value ?? 0) * 100).toFixed(1)} %`;
</script>

<div class="two" data-folds style:--wide="1fr" style:gap="28px">
	<section>
		<h2>The bill{currency ? `, ${currency}` : ''}</h2>
		{#if savings.tariff}<p class="say">{savings.tariff}</p>{/if}
		<Facts
			{open}
			rows={[
				...savings.bands.map((b) => ({ label: `Energy, ${b.name}`, figure: b.price })),
				{ label: `Before, a year${by}`, figure: f['bill_before'], digits: 4 },
				{ label: `Now, a year${by}`, figure: f['bill_now'], digits: 4 },
				{ label: `of it on the demand charge${by}`, figure: f['demand_money'], digits: 3 },
				{ label: `Highest demand saved${by}`, figure: f['demand_saved'] },
				{ label: TOLD[savings.told_by] ?? 'Saved a year', figure: f['money'], digits: 4 },
				{ label: 'A saved kWh is worth', figure: f['marginal'], note: 'not the bill’s mean price' },
				{ label: 'Mean price of the bill before', figure: f['blended'] }
			]}
		/>
		{#if savings.spread && (savings.bands.length > 1 || f['demand_money'])}
			<p class="say">
				When it flows is not known: the hours are spread evenly over the year. A typical week would meet the
				prices as they are.
			</p>
		{/if}
		<p class="say">Prices, rates and the tariff are <a href="/site/{siteId}">facts of the site</a>.</p>
	</section>
	<section>
		<h2>Over {years.toFixed(0)} years{currency ? `, ${currency}` : ''}</h2>
		<Facts
			{open}
			rows={[
				{ label: 'Spent, after grants', figure: f['cost'], digits: 5 },
				{ label: 'Upkeep more, a year', figure: f['upkeep']?.value ? f['upkeep'] : undefined, digits: 4 },
				{ label: 'Simple payback', figure: f['payback'], digits: 3 },
				{ label: 'Discounted payback', figure: f['discounted'], digits: 3 },
				{ label: 'Net present value', figure: f['present_value'], digits: 4 },
				{ label: 'Internal rate of return', figure: f['rate_of_return'] },
				{ label: 'The same, put by at the discount rate', figure: f['modified_return'] },
				{ label: 'Savings to investment', figure: f['to_investment'] },
				{ label: 'Present value of 1 a year', figure: f['uniform'] },
				{ label: 'The same, rising from the second year', figure: f['escalated'] },
				{ label: 'Breaks even at, hours a year', figure: f['break_even'] },
				{ label: 'CO₂ a year, the site’s factor', figure: f['emission'] }
			]}
		/>
		<p class="say">
			Discount {rate('discount')}, energy price rising {rate('escalation')} a year, both nominal; the first year
			is not escalated.{f['real'] ? ` Without inflation the discount is ${rate('real')}.` : ''}
		</p>
		{#each savings.missing as gap (gap)}<p class="say">{session.words(gap)}.</p>{/each}
	</section>
</div>

<style>
	.say {
		padding-top: 8px;
	}
	a {
		color: var(--steel);
		text-decoration: underline;
	}
</style>
