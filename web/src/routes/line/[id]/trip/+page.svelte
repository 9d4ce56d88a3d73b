<script lang="ts">
	/** Why did it trip: class and moment in, causes out, the likeliest on this line first. */
	import Sentence from '$lib/components/Sentence.svelte';
	import { openLine } from '$lib/line/context';
	import { session } from '$lib/session.svelte';
	import { FIELDS, TripPage } from '$lib/trip/trip-page.svelte';

	const line = openLine();
	const at = new TripPage(line);
	void at.load();
	$effect(() => () => at.again.stop());
	$effect(() => at.ask());
</script>

<div class="two" data-beside="left" style:--wide="260px" style:--narrow="200px">
	<aside aria-label="What happened">
		<h2>What the drive says</h2>
		<div class="kinds" role="radiogroup" aria-label="Class of trip">
			{#each at.words?.trips ?? [] as [id, label] (id)}
				<button type="button" role="radio" aria-checked={at.kind === id} onclick={() => (at.kind = id ?? '')}
					>{label}</button
				>
			{/each}
		</div>
	</aside>
	<main>
		<header>
			<h2>Why did it trip?</h2>
			<span class="say">Read the display and the trip log before you reset anything.</span>
		</header>
		<div class="moment">
			<label
				>It was
				<select class="field" bind:value={at.when}>
					{#each at.words?.moments ?? [] as [id, label] (id)}<option value={id}>{label?.toLowerCase()}</option
						>{/each}
				</select>
			</label>
			{#each FIELDS as [name, label, dimension] (name)}
				<label
					>{label}
					<span class="box"
						><input class="field" inputmode="decimal" autocomplete="off" bind:value={at.typed[name]} /><i
							>{session.units.symbol(dimension, session.system)}</i
						></span
					>
				</label>
			{/each}
		</div>
		{#if at.problem}<p class="problem" role="alert">{at.problem}</p>{/if}
		{#if !at.kind}
			<p class="say">Choose what the drive shows. Causes come ranked by what is on record of this line.</p>
		{:else if at.found}
			<ol>
				{#each at.found.causes as cause, i (cause.id)}
					<li data-first={i === 0}>
						<b class="num">{i + 1}</b>
						<div>
							<h3>{cause.title}</h3>
							<p><Sentence parts={cause.because} /></p>
							<p class="do">{cause.measure}</p>
						</div>
					</li>
				{/each}
			</ol>
			<p class="say warn">
				Lock out, wait for the capacitors and measure before hands go in. A drive that restarts by itself
				starts the machine: switch that off first. The drive's manual governs what its codes mean.
			</p>
		{/if}
	</main>
</div>

<style>
	aside {
		border-right: 1px solid var(--rule);
		background: var(--sheet);
		padding: 14px 16px;
		overflow: auto;
		position: relative;
	}
	main {
		padding: 14px 22px 30px;
		overflow: auto;
		position: relative;
	}
	header {
		display: flex;
		align-items: baseline;
		gap: 14px;
	}
	.kinds {
		display: grid;
		margin-top: 8px;
	}
	@media (max-width: 600px) {
		.kinds {
			grid-template-columns: 1fr 1fr;
		}
	}
	.kinds button {
		text-align: left;
		min-height: 44px;
		padding: 6px 10px;
		font-size: var(--t3);
		color: var(--ink);
		background: none;
		border: 0;
		border-bottom: 1px solid var(--rule);
		cursor: pointer;
	}
	.kinds button[aria-checked='true'] {
		background: var(--paper);
		font-weight: 650;
		box-shadow: inset 4px 0 0 var(--brass);
	}
	.moment {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 18px;
		margin: 12px 0 6px;
	}
	.moment label {
		display: grid;
		gap: 3px;
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.moment select {
		font: 600 var(--t3) var(--sans);
		min-height: 44px;
	}
	.box {
		display: flex;
		align-items: center;
		gap: 6px;
	}
	.box input {
		width: 104px;
		min-height: 44px;
	}
	.box i {
		font-style: normal;
		color: var(--ink-3);
	}
	ol {
		max-width: 780px;
	}
	li {
		display: grid;
		grid-template-columns: 38px 1fr;
		padding: 12px 0;
		border-bottom: 1px solid var(--rule);
	}
	li > b {
		font-size: var(--t5);
		color: var(--ink-3);
	}
	li[data-first='true'] > b {
		color: var(--brass);
	}
	h3 {
		font-size: var(--t4);
		font-weight: 650;
	}
	li p {
		font-size: var(--t3);
		color: var(--ink-2);
	}
	.do {
		color: var(--steel);
		font-weight: 600;
	}
	.warn {
		margin-top: 14px;
		max-width: 780px;
		padding: 10px 14px;
		border-left: 4px solid var(--caution);
		background: var(--caution-wash);
	}
</style>
