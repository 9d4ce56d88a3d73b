<script lang="ts">
	/** What may be claimed, on what it rests, what not, and what would sharpen it. */
	import Facts from '../components/Facts.svelte';
	import Num from '../components/Num.svelte';
	import { session } from '../session.svelte';
	import { asTitle, date } from '../words';
	import type { MeasuredPage } from './measured-page.svelte';

	let { page, open }: { page: MeasuredPage; open: (key: string) => void } = $props();
	const view = $derived(page.view);
	const claim = $derived(view?.claim);
	const figures = $derived(claim?.figures ?? {});
	const percent = (v: number, digits = 1): string => `${(v * 100).toFixed(digits)} %`;
	const hours = (seconds: number): string => session.show(seconds, 'hours');
	const PARTS: Record<string, string> = {
		scatter: 'Scatter about the curves',
		power: 'Power meter',
		flow: 'Flow meter',
		hours: 'Hours that were entered'
	};
	const currency = $derived(page.line.currency);
</script>

{#if claim}
	<h2>What may be claimed</h2>
	{#if claim.holds}
		<p class="words">
			{#if claim.low !== null && claim.high !== null}Between {session.show(claim.low, claim.dimension)} and
				{session.show(claim.high, claim.dimension)} it takes{:else}It takes{/if}
			{percent(figures['fraction']?.value ?? 0, 0)} less than before, {claim.words}: in
			{hours(claim.seconds)} of the {hours(claim.seconds_all)} that the year asks for, by {session.words(
				claim.year
			)}.
		</p>
		<button type="button" class="act" onclick={() => void page.claim()} disabled={view?.kept?.same}
			>{view?.kept?.same ? 'Claimed' : 'Claim it in my name'}</button
		>
		{#if view?.kept}
			<p class="say">
				{view.kept.by} claimed {session.show(view.kept.saved, 'energy')} ± {session.show(
					view.kept.half,
					'energy'
				)} on {date(view.kept.at)}.{view.kept.same ? '' : ' The logs say otherwise now.'}
			</p>
		{/if}
	{:else}
		<p class="words">Nothing yet. The logs are kept; what is missing stands below.</p>
	{/if}
	{#each claim.refused as refused (refused.what + refused.why)}
		<div class="refused">
			<b>Not claimable{refused.what === 'everything' ? '' : `: ${session.words(refused.what)}`}</b>
			<p>{session.words(refused.why)}. {session.words(refused.need)}</p>
		</div>
	{/each}
	{#each view?.told ?? [] as told (told)}
		<div class="refused">
			<b>Logs joined</b>
			<p>{session.words(told)}</p>
		</div>
	{/each}
	{#if claim.sharpen && claim.holds}
		<div class="sharpen">
			<b>What would sharpen it most</b>
			<p>{session.words(claim.sharpen)}</p>
		</div>
	{/if}
	<h2 class="rests">What it rests on</h2>
	{#each claim.fits as fit, side (side)}
		<p class="fact">
			<span
				>Curve {side ? 'now' : 'before'}<small>{fit.kind}, {fit.hours} hours of {fit.days} days</small></span
			>
			<b class="num">CV {percent(fit.variation)}</b>
		</p>
		<p class="fact">
			<span>Bias<small>every second day by the others</small></span><b class="num">{percent(fit.bias, 2)}</b>
		</p>
	{/each}
	{#if claim.rest}
		<p class="fact">
			<span>At rest, before and now<small>{hours(claim.rest.seconds)} a year, counted</small></span>
			<b class="num"
				>{session.show(claim.rest.before, 'input_power')}, {session.show(claim.rest.after, 'input_power')}</b
			>
		</p>
	{/if}
	<Facts
		{open}
		rows={[
			...claim.parts
				.filter((p) => p.energy.value > 0)
				.map((p) => ({
					label: PARTS[p.id] ?? p.id,
					figure: p.energy,
					note: 'standard uncertainty',
					digits: 3
				})),
			{ label: 'By the guideline’s short formula', figure: figures['short_formula'], note: 'scatter alone' }
		]}
	/>
	{#if figures['money'] && figures['money_half']}
		<p class="fact">
			<span>Money a year{currency ? `, ${currency}` : ''}</span>
			<b
				><Num figure={figures['money']} rough digits={3} {open} /> ± <Num
					figure={figures['money_half']}
					rough
					digits={2}
					{open}
				/></b
			>
		</p>
	{/if}
	{#if figures['payback_short'] && figures['payback_long']}
		<p class="fact">
			<span>Pays back in</span>
			<b class="num"
				>{figures['payback_short'].value.toFixed(1)} to {figures['payback_long'].value.toFixed(1)} years</b
			>
		</p>
	{/if}
{:else if view}
	<h2>Nothing to claim yet</h2>
	<p class="words">{asTitle(session.words(view.missing))}.</p>
	<p class="say">
		Any table with times will do: a logger’s CSV, a building system’s export, a workbook, Parquet, or the XML
		of an interval meter. Power or an energy counter, and the flow if there is one.
	</p>
{/if}

<style>
	.rests {
		margin-top: 16px;
	}
	.words {
		font-size: var(--t3);
		padding: 4px 0 8px;
	}
	.refused,
	.sharpen {
		margin-top: 12px;
		padding: 9px 12px;
		font-size: var(--t2);
	}
	.refused {
		background: var(--well);
		border-left: 4px solid var(--unknown);
	}
	.sharpen {
		background: var(--brass-wash);
		border-left: 4px solid var(--brass);
	}
</style>
