<script lang="ts">
	/** A site: what its lines share, and the practice of the house where it differs from the trade's. */
	import { page } from '$app/state';
	import { onDestroy } from 'svelte';
	import type { Schemas } from '$lib/api/client';
	import ChoiceField from '$lib/components/ChoiceField.svelte';
	import PointsField from '$lib/components/PointsField.svelte';
	import TopBar from '$lib/components/TopBar.svelte';
	import { provideHolder } from '$lib/line/context';
	import { SAID_ONCE, sourceOf } from '$lib/words';
	import { session } from '$lib/session.svelte';
	import { SitePage } from '$lib/site/site-page.svelte';

	const at = $derived(new SitePage(page.params['id'] ?? ''));
	provideHolder(() => at);
	const unread = $derived(Object.keys(at.wrong).length);
	$effect(() => {
		void at.load();
		return () => at.again.stop();
	});
	onDestroy(() => void at.keep());
</script>

<svelte:head><title>{at.name ? `${at.name} · ` : ''}Mainspring</title></svelte:head>

<svelte:window onpagehide={() => void at.keep()} />

{#snippet entry(field: Schemas['FieldView'], label: string, placeholder = '')}
	<span class="entry"
		><input
			class="field"
			data-kind={field.kind}
			autocomplete="off"
			inputmode={field.kind === 'quantity' ? 'decimal' : 'text'}
			aria-label={label || undefined}
			{placeholder}
			aria-invalid={at.wrong[field.name] !== undefined}
			value={at.text(field)}
			oninput={(event) => at.type(field, event.currentTarget.value)}
			onchange={() => at.settle(field)}
		/><i>{session.units.symbol(field.dimension, session.system)}</i></span
	>
{/snippet}

<div class="whole">
	<TopBar>
		<a class="back" href="/">Round</a>
		<h1>{at.site?.name ?? 'Site'}</h1>
	</TopBar>
	<main>
		{#if at.site}
			<form
				onsubmit={(event) => {
					event.preventDefault();
					void at.keep();
				}}
			>
				<header>
					<h2>What every line here shares</h2>
					<span class="gap"></span>
					<button class="act" data-quiet disabled={!at.changed || at.busy}
						>{at.changed ? 'Keeping …' : unread ? `${unread} not kept, all else is` : 'Kept'}</button
					>
				</header>
				{#if at.theirs}
					<section class="conflict" role="alert">
						<b>Somebody else changed this site in between.</b>
						<button type="button" class="act" onclick={() => void at.keepMine()}>Keep what I typed</button>
						<button type="button" class="act" data-quiet onclick={() => at.takeTheirs()}>Take theirs</button>
					</section>
				{:else if at.problem}<p class="problem" role="alert">{at.problem}</p>{/if}
				<section class="sheet facts">
					<label
						><span>Name</span><input
							class="field text"
							bind:value={at.name}
							aria-invalid={at.wrong['name'] !== undefined}
						/>{#if at.wrong['name']}<em>{at.wrong['name']}</em>{/if}</label
					>
					<label
						><span>Units</span>
						<select class="field" bind:value={at.units}>
							{#each session.units.systems as { id, label } (id)}<option value={id}>{label}</option>{/each}
						</select></label
					>
					{#each at.facts as field (field.name)}
						<label
							><span
								>{field.label}{#if field.help}<small>{field.help}</small>{/if}</span
							>
							{@render entry(field, field.label)}
							{#if at.wrong[field.name]}<em>{at.wrong[field.name]}</em>{/if}</label
						>
					{/each}
				</section>
				<h2>Tariff and money</h2>
				<section class="sheet money">
					{#each at.money as field (field.name)}
						{#if field.kind === 'choice'}<ChoiceField {field} />
						{:else if field.kind === 'points'}
							{#if at.asks(field)}<PointsField {field} least={2} />{/if}
						{:else if at.asks(field)}
							<label class="line"
								><span>{field.label}</span>
								{@render entry(field, '')}
								<small>{at.wrong[field.name] ?? field.help}</small></label
							>
						{/if}
					{/each}
				</section>
				<h2>Our own practice</h2>
				<p class="say">
					Where the house differs from the trade. Empty leaves it to the trade; checks, proposed settings and
					their reasons follow at once on every line of this site. {SAID_ONCE}
				</p>
				<table class="sheet">
					<thead><tr><th>What</th><th>The trade</th><th>Here</th><th>On whose word</th></tr></thead>
					<tbody>
						{#each at.own as field (field.name)}
							<tr data-own={at.text(field) !== ''}>
								<td>{field.label}</td>
								<td class="num">{session.show(field.usual ?? 0, field.dimension)}</td>
								<td
									>{@render entry(field, field.label, '–')}{#if at.wrong[field.name]}<em
											>{at.wrong[field.name]}</em
										>{/if}</td
								>
								<td class="say">{sourceOf(field.help)}</td>
							</tr>
						{/each}
					</tbody>
				</table>
			</form>
		{:else}
			<p class="say">{at.problem || 'Opening the site …'}</p>
		{/if}
	</main>
</div>

<style>
	.money {
		padding: 4px 16px 10px;
		margin: 10px 0 22px;
	}
	.line {
		display: grid;
		grid-template-columns: 178px 240px minmax(0, 1fr);
		gap: 10px;
		align-items: center;
		padding: 4px 0;
		border-bottom: 1px solid var(--rule);
	}
	.line > span:first-child {
		color: var(--ink-2);
		font-size: var(--t3);
	}
	.line small {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.whole {
		display: grid;
		grid-template-rows: 48px minmax(0, 1fr);
		min-height: 0;
	}
	h1 {
		font-size: var(--t4);
		font-weight: 650;
	}
	.back {
		color: var(--steel);
		font-weight: 600;
	}
	main {
		overflow: auto;
		position: relative;
		padding: 14px 20px 30px;
	}
	form {
		max-width: 980px;
	}
	header {
		display: flex;
		align-items: center;
		gap: 12px;
	}
	.gap {
		flex: 1;
	}
	.conflict {
		display: flex;
		align-items: center;
		gap: 12px;
		padding: 10px 14px;
		margin-top: 10px;
		background: var(--caution-wash);
		border-left: 4px solid var(--caution);
	}
	.facts {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(290px, 1fr));
		gap: 12px 28px;
		padding: 14px 16px;
		margin: 10px 0 22px;
	}
	label {
		display: grid;
		gap: 3px;
		align-content: start;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	small {
		display: block;
		font-size: var(--t1);
		color: var(--ink-3);
	}
	.text {
		font-family: var(--sans);
	}
	.entry {
		display: inline-flex;
		align-items: center;
		gap: 7px;
	}
	.entry .field {
		width: 120px;
		text-align: right;
	}
	.entry .field[data-kind='text'] {
		text-align: left;
	}
	.entry i {
		font-style: normal;
		font-size: var(--t2);
		color: var(--ink-3);
	}
	.field[aria-invalid='true'] {
		border-color: var(--stop);
	}
	em {
		display: block;
		font-style: normal;
		font-size: var(--t2);
		color: var(--stop);
	}
	table {
		width: 100%;
		border-collapse: collapse;
		margin-top: 10px;
		font-size: var(--t3);
	}
	th {
		text-align: left;
		font-size: var(--t1);
		font-weight: 600;
		color: var(--ink-3);
		padding: 9px 14px 6px;
		border-bottom: 1.5px solid var(--ink);
	}
	td {
		padding: 4px 14px;
		border-bottom: 1px solid var(--rule);
		height: 44px;
	}
	[data-own='true'] td:first-child {
		font-weight: 650;
		box-shadow: inset 4px 0 0 var(--brass);
	}
	.problem {
		margin-top: 8px;
	}
</style>
