<script lang="ts">
	/** The drive line, drawn: six stations, the joints between them, and the sensor's return to the drive. */
	import type { Schemas } from '../api/client';
	import Mark from './Mark.svelte';
	import Sentence from './Sentence.svelte';
	import { DRAWN } from './strip-art';

	let {
		strip,
		selected,
		select,
		slim = false
	}: {
		strip: Schemas['StripView'];
		selected: string;
		select: (place: string) => void;
		/** One row of stations and joints, where the page below needs the room. */
		slim?: boolean;
	} = $props();
</script>

<section class="strip" aria-label="Drive line" data-slim={slim}>
	<ol>
		{#each strip.stations as station, i (station.id)}
			{@const joint = strip.joints[i]}
			<li>
				<button
					type="button"
					class="station"
					aria-pressed={selected === station.id}
					data-severity={station.severity}
					onclick={() => select(station.id)}
				>
					<svg class="art" viewBox="0 0 36 36" width="31" height="31" aria-hidden="true"
						>{@html DRAWN[station.id]}</svg
					>
					<span class="name">{station.label}</span>
					<span class="key num"><Sentence parts={station.key} /></span>
					<span class="second"><Sentence parts={station.second} /></span>
					<span class="own"
						>{#if station.severity === 'stop' || station.severity === 'caution'}<Mark
								severity={station.severity}
								size={13}
								named
							/>{/if}<kbd>{i + 1}</kbd></span
					>
				</button>
				{#if joint && i < 5}
					<button
						type="button"
						class="joint"
						data-thick={i === 2 || i === 3}
						aria-pressed={selected === joint.id}
						aria-label="Joint {joint.id.replace('-', ' and ')}: {joint.severity}"
						onclick={() => select(joint.id)}><Mark severity={joint.severity} size={22} /></button
					>
				{/if}
			</li>
		{/each}
	</ol>
	<div class="back">
		<span class="tail"></span>
		<button
			type="button"
			class="joint"
			aria-pressed={selected === 'sensor-drive'}
			aria-label="Joint sensor and drive: {strip.joints[5]?.severity}"
			onclick={() => select('sensor-drive')}
			><Mark severity={strip.joints[5]?.severity ?? 'unknown'} size={18} /></button
		>
		<span class="words"><Sentence parts={strip.back} /></span>
		<span class="head"></span>
	</div>
</section>

<style>
	.strip {
		background: var(--sheet);
		border-bottom: 1px solid var(--rule-strong);
		padding: 13px 20px 8px;
	}
	[data-slim='true'].strip {
		padding: 6px 20px;
	}
	[data-slim='true'] .station {
		grid-template-columns: auto 1fr auto;
		grid-template-rows: 1fr;
		gap: 8px;
		min-height: 44px;
		padding: 2px 9px;
	}
	[data-slim='true'] .station > :is(.name, .key, .own) {
		grid-row: 1;
		grid-column: auto;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	[data-slim='true'] :is(.art, .second, .back, kbd) {
		display: none;
	}
	[data-slim='true'] .key {
		font-size: var(--t2);
		letter-spacing: -0.02em;
	}
	[data-slim='true'] ol .joint.joint {
		padding-top: 0;
		align-items: center;
	}
	[data-slim='true'] ol .joint::before {
		top: calc(50% - 0.8px);
	}
	ol {
		display: grid;
		grid-template-columns: repeat(5, minmax(0, 1fr) 54px) minmax(0, 1fr);
	}
	li {
		display: contents;
	}
	.station {
		display: grid;
		grid-template-columns: 38px 1fr;
		grid-template-rows: 18px 24px auto 16px;
		text-align: left;
		align-items: center;
		background: var(--ground);
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		padding: 6px 9px 3px;
		min-width: 0;
		cursor: pointer;
		color: var(--ink);
	}
	.station[aria-pressed='true'] {
		background: var(--paper);
		outline: 2px solid var(--steel);
		outline-offset: -1px;
	}
	.art {
		grid-row: 1 / 3;
		fill: none;
		stroke: currentColor;
		stroke-width: 1.9;
		stroke-linejoin: round;
	}
	.station[aria-pressed='true'] .art {
		stroke: var(--steel);
	}
	.name {
		font-size: var(--t1);
		color: var(--ink-2);
	}
	.key {
		font-family: var(--mono);
		font-size: var(--t3);
		font-weight: 650;
		white-space: nowrap;
		letter-spacing: -0.02em;
		overflow: hidden;
	}
	.second {
		grid-column: 1 / 3;
		border-top: 1px solid var(--rule);
		padding-top: 5px;
		margin-top: 3px;
		font-size: var(--t1);
		color: var(--ink-2);
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.own {
		grid-column: 1 / 3;
		display: flex;
		justify-content: flex-end;
		align-items: center;
		gap: 6px;
	}
	kbd {
		font: var(--t1) var(--mono);
		color: var(--ink-3);
	}
	.joint {
		background: none;
		border: 0;
		cursor: pointer;
		display: grid;
		place-items: center;
		position: relative;
		min-height: 44px;
	}
	ol .joint::before {
		content: '';
		position: absolute;
		left: 0;
		right: 0;
		top: 40px;
		height: 1.6px;
		background: var(--ink);
	}
	ol .joint[data-thick='true']::before {
		height: 3px;
	}
	ol .joint {
		align-items: start;
		padding-top: 29px;
	}
	.joint :global(svg) {
		position: relative;
		box-shadow: 0 0 0 4px var(--sheet);
		border-radius: 50%;
		background: var(--sheet);
	}
	.joint[aria-pressed='true'] :global(svg) {
		box-shadow:
			0 0 0 4px var(--sheet),
			0 0 0 6px var(--steel);
	}
	.back {
		position: relative;
		display: flex;
		justify-content: center;
		align-items: center;
		gap: 8px;
		height: 26px;
		margin-top: 2px;
		font-size: var(--t1);
		color: var(--ink-2);
	}
	.back .joint {
		min-height: 26px;
		z-index: 1;
	}
	.back .words {
		background: var(--sheet);
		padding: 0 8px 0 2px;
		z-index: 1;
	}
	.tail,
	.head {
		position: absolute;
		top: 0;
		height: 13px;
		border-bottom: 1.4px dotted var(--ink-3);
	}
	.tail {
		left: calc(100% / 6 * 1.55);
		right: calc(100% / 6 * 0.45);
		border-right: 1.4px dotted var(--ink-3);
		border-left: 1.4px dotted var(--ink-3);
	}
	.head {
		left: calc(100% / 6 * 1.55 - 4px);
		width: 9px;
		height: 6px;
		border: 0;
		background: var(--ink-3);
		clip-path: polygon(50% 0, 100% 100%, 0 100%);
	}
	@media (max-width: 1000px) {
		.strip {
			padding: 8px 10px 4px;
		}
		ol {
			grid-template-columns: repeat(5, minmax(0, 1fr) 44px) minmax(0, 1fr);
		}
		.station {
			grid-template-columns: 1fr;
			grid-template-rows: auto auto;
			padding: 5px 6px;
			min-height: 48px;
		}
		.art,
		.second,
		.own {
			display: none;
		}
		.key {
			font-size: var(--t2);
		}
		[data-slim='true'] .name {
			position: absolute;
			opacity: 0;
		}
		[data-slim='true'] .station {
			padding: 2px 4px;
			gap: 0;
		}
		[data-slim='true'] .station .key {
			font-size: var(--t1);
		}
		ol .joint {
			padding-top: 14px;
		}
		ol .joint::before {
			top: 24px;
		}
	}
</style>
