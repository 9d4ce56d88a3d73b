<script lang="ts">
	/** The settings sheet: planned with its reason, as found, as left, differences marked. */
	import Num from '$lib/components/Num.svelte';
	import Sentence from '$lib/components/Sentence.svelte';
	import { openLine } from '$lib/line/context';
	import { session } from '$lib/session.svelte';
	import { SettingsPage } from '$lib/settings/settings-page.svelte';

	const line = openLine();
	const at = new SettingsPage(line);
	const sheet = $derived(at.sheet);
	const open = (key: string) => line.openWorking(key);

	$effect(() => {
		void line.version;
		void at.load();
	});

	const GROUPS: Record<string, string> = {
		region: 'Region and reset',
		reset: 'Region and reset',
		application: 'Application',
		motor: 'Motor',
		limits: 'Limits',
		ramps: 'Ramps, start and stop',
		start: 'Ramps, start and stop',
		stop: 'Ramps, start and stop',
		reference: 'Reference and feedback',
		feedback: 'Reference and feedback',
		pid: 'Controller',
		sleep: 'Rest at no demand',
		protection: 'Protection and restart',
		retry: 'Protection and restart',
		io: 'Relays, carrier, display',
		carrier: 'Relays, carrier, display',
		display: 'Relays, carrier, display'
	};

	const WORD: Record<string, string> = {
		same: 'as planned',
		differs: 'differs',
		open: '',
		unplanned: 'no plan'
	};
</script>

<main>
	<header>
		<h2>Settings sheet</h2>
		{#if sheet}
			<span class="say"
				>{sheet.set_count} of {sheet.rows.length} set{sheet.differs_count
					? `, ${sheet.differs_count} differ from the plan`
					: ''}. Labels of the {sheet.family_name} family</span
			>
		{/if}
		<span class="gap"></span>
		<button type="button" class="act" data-quiet onclick={() => void at.takePlan()}
			>Enter the rest as planned</button
		>
		<a class="act" href="/api/lines/{line.id}/settings.csv?units={session.system}" download>CSV</a>
	</header>
	{#if at.problem}<p class="problem" role="alert">{at.problem}</p>{/if}
	<table>
		<thead>
			<tr
				><th>Setting</th><th>On this drive</th><th class="r">Planned</th><th>As found</th><th>As left</th><th
				></th><th>Because</th></tr
			>
		</thead>
		<tbody>
			{#each sheet?.rows ?? [] as row, i (row.id)}
				{#if i === 0 || GROUPS[row.group] !== GROUPS[sheet?.rows[i - 1]?.group ?? '']}
					<tr class="group"><th colspan="7" scope="colgroup">{GROUPS[row.group]}</th></tr>
				{/if}
				<tr data-verdict={row.verdict}>
					<td class="called" title="Off: {row.wrong}">{row.label}</td>
					<td class="family"
						>{#if row.family}<b class="num">{row.family.number}</b> {row.family.label}{/if}</td
					>
					<td class="r planned">
						{#if row.planned}<Num figure={row.planned} {open} />
						{:else if row.planned_choice}<span class="choice"
								>{row.family?.words[row.planned_choice] ??
									row.choices[row.planned_choice] ??
									row.planned_choice}</span
							>
						{:else}<span class="missing">{session.words(row.missing)}</span>{/if}
					</td>
					{#each ['found', 'left'] as const as moment (moment)}
						<td>
							{#if row.dimension}
								<span class="cell"
									><input
										class="field"
										aria-label="{row.label} as {moment}"
										value={at.text(row, moment)}
										oninput={(event) => at.type(row, moment, event.currentTarget.value)}
										onchange={(event) => void at.put(row, moment, event.currentTarget.value)}
									/><i>{session.units.symbol(row.dimension, session.system)}</i></span
								>
							{:else}
								<select
									class="field"
									aria-label="{row.label} as {moment}"
									value={String(row[moment] ?? '')}
									onchange={(event) => void at.put(row, moment, event.currentTarget.value)}
								>
									<option value="">–</option>
									{#each Object.entries(row.choices) as [id, label] (id)}<option value={id}
											>{row.family?.words[id] ?? label}</option
										>{/each}
								</select>
							{/if}
						</td>
					{/each}
					<td class="verdict">{WORD[row.verdict]}</td>
					<td class="why"><Sentence parts={row.reason} {open} /> <small>{row.source}</small></td>
				</tr>
			{/each}
		</tbody>
	</table>
</main>

<style>
	main {
		overflow: auto;
		position: relative;
		padding: 12px 20px 30px;
	}
	header {
		display: flex;
		gap: 14px;
		align-items: center;
	}
	.gap {
		flex: 1;
	}
	table {
		border-collapse: collapse;
		width: 100%;
		margin-top: 8px;
		font-size: 14px;
	}
	thead th {
		position: sticky;
		top: -12px;
		z-index: 1;
		background: var(--ground);
		font-size: 12.5px;
		color: var(--ink-3);
		font-weight: 600;
		text-align: left;
		padding: 7px 8px 5px 0;
		border-bottom: 1.5px solid var(--ink);
	}
	.group th {
		text-align: left;
		font-size: 13px;
		font-weight: 650;
		color: var(--ink-2);
		padding: 14px 0 4px;
	}
	td {
		padding: 3px 10px 3px 0;
		border-bottom: 1px solid var(--rule);
		vertical-align: middle;
	}
	th.r,
	.r {
		text-align: right;
		padding-right: 16px;
	}
	.called {
		color: var(--ink);
		min-width: 150px;
	}
	.family {
		color: var(--ink-3);
		font-size: 13px;
		white-space: nowrap;
	}
	.choice {
		white-space: normal;
	}
	.planned {
		font-weight: 650;
		white-space: nowrap;
		max-width: 190px;
	}
	.missing {
		white-space: normal;
		font-weight: 400;
		font-size: 12.5px;
		color: var(--unknown);
	}
	.cell {
		display: inline-flex;
		align-items: center;
		gap: 5px;
	}
	.cell i {
		font-style: normal;
		font-size: 12px;
		color: var(--ink-3);
		min-width: 30px;
	}
	.field {
		width: 84px;
		text-align: right;
		padding: 3px 7px;
		min-height: 30px;
		font-size: 14.5px;
	}
	select.field {
		width: 119px;
		text-align: left;
		font: 500 13.5px var(--sans);
	}
	.verdict {
		font-size: 12.5px;
		color: var(--clear);
		white-space: nowrap;
	}
	[data-verdict='differs'] .verdict {
		color: var(--stop);
		font-weight: 650;
	}
	[data-verdict='differs'] td {
		background: var(--stop-wash);
	}
	.why {
		font-size: 12.8px;
		color: var(--ink-2);
		line-height: 1.3;
		min-width: 220px;
	}
	small {
		color: var(--ink-3);
		display: block;
	}
	.problem {
		color: var(--stop);
		font-weight: 600;
	}
</style>
