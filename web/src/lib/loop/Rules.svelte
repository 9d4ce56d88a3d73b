<script lang="ts">
	/** Every tuning rule on one model, with the robustness it leaves; the one to begin with is marked. */
	import type { Schemas } from '../api/client';
	import Mark from '../components/Mark.svelte';
	import { session } from '../session.svelte';

	let {
		rules,
		begin_with,
		label = 'Take it',
		derivative = false,
		take
	}: {
		rules: Schemas['RuleView'][];
		begin_with: string;
		label?: string;
		/** Whether gains with a derivative can be taken too. */
		derivative?: boolean;
		take: (rule: Schemas['RuleView']) => void;
	} = $props();

	const time = (v: number) => session.show(v, 'time');
	const margin = (v: number | null | undefined, unit = '') =>
		v === null || v === undefined ? '–' : `${v.toPrecision(3)}${unit}`;
</script>

<table class="tool">
	<thead>
		<tr
			><th>Rule</th><th class="r">Gain</th><th class="r">Integral time</th><th class="r">Derivative</th><th
				class="r"
				title="2.5 at least">Gain margin</th
			><th class="r" title="45° at least">Phase margin</th><th class="r" title="1.7 at most">Sensitivity</th
			><th class="r" title="10 % at most">Overshoot</th><th></th></tr
		>
	</thead>
	<tbody>
		{#each rules as rule (rule.id)}
			<tr data-begin={rule.id === begin_with}>
				<td
					><Mark severity={rule.sound ? 'clear' : 'caution'} size={14} named /> <b>{rule.label}</b>
					<small>{rule.why}</small></td
				>
				<td class="r num">{rule.gain.toPrecision(3)}</td><td class="r num">{time(rule.integral_time)}</td>
				<td class="r num">{rule.derivative_time ? time(rule.derivative_time) : '–'}</td>
				<td class="r num">{margin(rule.gain_margin)}</td><td class="r num"
					>{margin(rule.phase_margin, '°')}</td
				>
				<td class="r num">{margin(rule.sensitivity)}</td>
				<td class="r num">{rule.overshoot === null ? '–' : `${(100 * rule.overshoot).toFixed(0)} %`}</td>
				<td
					>{#if derivative || !rule.derivative_time}<button
							type="button"
							class="act"
							data-quiet
							onclick={() => take(rule)}>{label}</button
						>{/if}</td
				>
			</tr>
		{/each}
	</tbody>
</table>

<style>
	table {
		margin-top: 8px;
	}
	.num,
	button {
		white-space: nowrap;
	}
	[data-begin='true'] td {
		background: var(--brass-wash);
	}
	small {
		display: block;
		font-size: var(--t1);
		color: var(--ink-2);
	}
</style>
