<script lang="ts">
	/** The trial as a picture: looked at by pointer, finger or arrow keys, and played forward. */
	import { session } from '../session.svelte';
	import type { LoopBench } from './loop-bench.svelte';
	import { clock, draw, MARGIN, rowAt, scales, type Picture } from './trace';

	let { bench, height = 330 }: { bench: LoopBench; height?: number } = $props();

	const SPEEDS = [1, 10, 60, 600];
	let canvas = $state<HTMLCanvasElement>();
	let probe = $state<HTMLElement>();
	let width = $state(860);
	let at = $state<number | null>(null);
	let upto = $state<number | null>(null);
	let speed = $state(60);
	let playing = $state(false);
	let dressed = $state(0);

	const loop = $derived(bench.loop!);
	const unit = $derived(session.units.unit(loop.dimension, session.system));
	const flowUnit = $derived(session.units.unit(loop.flow_dimension, session.system));
	const powerUnit = $derived(session.units.unit('power', session.system));

	/** Colours and fonts of the page, read once for each look of it. */
	const inks = $derived.by(() => {
		void session.mode;
		void dressed;
		const found: Record<string, string> = {};
		const read = (name: string): string => {
			if (!probe) return '';
			probe.style.color = `var(--${name})`; // a canvas knows no variables, and no colours of two themes
			return (found[name] ??= getComputedStyle(probe).color);
		};
		const face = (name: string): string =>
			probe ? getComputedStyle(probe).getPropertyValue(`--${name}`).trim() : 'sans-serif';
		const fonts: Record<string, string> = {
			'tick-font': `12px ${face('mono')}`,
			'side-font': `12px ${face('sans')}`,
			'name-font': `650 13px ${face('sans')}`
		};
		return (name: string): string => fonts[name] ?? read(name);
	});

	const picture = $derived<Picture>({
		loop,
		others: bench.kept.map((k) => k.loop),
		spread: bench.spread,
		at: upto ?? at,
		upto,
		words: {
			value: (v) => (v - (unit?.offset ?? 0)) / (unit?.factor ?? 1),
			flow: (v) => v / (flowUnit?.factor ?? 1),
			unit: unit?.symbol ?? '',
			flowUnit: flowUnit?.symbol ?? '',
			power: (v) => v / (powerUnit?.factor ?? 1),
			powerUnit: powerUnit?.symbol ?? '',
			held: loop.held,
			asked: loop.asked
		},
		width,
		height,
		ink: inks
	});

	$effect(() => {
		const ctx = canvas?.getContext('2d');
		if (!canvas || !ctx || !width) return;
		const dense = window.devicePixelRatio || 1;
		if (canvas.width !== Math.round(width * dense) || canvas.height !== Math.round(height * dense)) {
			canvas.width = Math.round(width * dense);
			canvas.height = Math.round(height * dense);
		}
		ctx.setTransform(dense, 0, 0, dense, 0, 0);
		draw(ctx, picture);
	});
	$effect(() => {
		void document.fonts?.ready.then(() => (dressed += 1));
	});

	$effect(() => {
		if (!playing) return;
		let frame = 0;
		let before = performance.now();
		const step = (now: number): void => {
			upto = Math.min((upto ?? 0) + ((now - before) / 1000) * speed, loop.duration);
			before = now;
			if (upto >= loop.duration) playing = false;
			else frame = requestAnimationFrame(step);
		};
		frame = requestAnimationFrame(step);
		return () => cancelAnimationFrame(frame);
	});

	function play(): void {
		if (!playing && (upto === null || upto >= loop.duration)) upto = 0;
		playing = !playing;
	}

	function stop(): void {
		playing = false;
		upto = null;
	}

	function look(event: PointerEvent): void {
		const box = canvas!.getBoundingClientRect();
		const time = scales(picture).x.invert(event.clientX - box.left);
		at = time >= 0 && time <= loop.duration ? time : null;
	}

	function keys(event: KeyboardEvent): void {
		const by = loop.duration / (event.shiftKey ? 20 : 100);
		const now = at ?? 0;
		if (event.key === 'ArrowRight') at = Math.min(now + by, loop.duration);
		else if (event.key === 'ArrowLeft') at = Math.max(now - by, 0);
		else if (event.key === 'Home') at = 0;
		else if (event.key === 'End') at = loop.duration;
		else if (event.key === ' ') play();
		else return;
		event.preventDefault();
	}

	const seen = $derived.by(() => {
		const time = upto ?? at;
		if (time === null) return '';
		const i = rowAt(loop, time);
		const near = loop.events.find((e) => Math.abs(e.time - time) < loop.duration / 120);
		const show = (v: number | undefined, kind: string | null): string => session.show(v ?? 0, kind);
		return [
			`at ${clock(time)}`,
			loop.dimension ? show(loop.value[i], loop.dimension) : '',
			show(loop.frequency[i], 'frequency'),
			show(loop.flow[i], loop.flow_dimension),
			show(loop.power[i], 'input_power'),
			near ? `${near.name}: ${session.words(near.why)}` : '',
			loop.machines > 1 ? `${Math.round(loop.running[i] ?? 1)} running` : ''
		]
			.filter(Boolean)
			.join(', ');
	});
</script>

<div bind:clientWidth={width}>
	<i bind:this={probe} hidden></i>
	<canvas
		bind:this={canvas}
		style:width="{width}px"
		style:height="{height}px"
		tabindex="0"
		role="slider"
		aria-label="Trial: {loop.held || 'speed'}, speed, flow and power over {clock(loop.duration)}"
		aria-valuemin="0"
		aria-valuemax={loop.duration}
		aria-valuenow={Math.round(upto ?? at ?? 0)}
		aria-valuetext={seen || 'the whole trial'}
		aria-describedby="happened"
		onpointermove={look}
		onpointerdown={look}
		onpointerleave={() => (at = null)}
		onkeydown={keys}
	></canvas>
	<p class="sr-only" id="happened">
		{loop.events.length
			? loop.events
					.slice(0, 24)
					.map((e) => `${e.name} at ${clock(e.time)}, ${session.words(e.why)}`)
					.join('; ')
			: 'Nothing happens'}
	</p>
	<div class="under" style:padding-left="{MARGIN.left}px">
		<button type="button" class="act" data-quiet onclick={play}>{playing ? 'Pause' : 'Play'}</button>
		<span role="group" aria-label="How fast">
			{#each SPEEDS as times (times)}
				<button
					type="button"
					class="act"
					data-quiet={speed === times ? undefined : ''}
					aria-pressed={speed === times}
					onclick={() => (speed = times)}>{times}×</button
				>
			{/each}
		</span>
		{#if upto !== null}<button type="button" class="act" data-quiet onclick={stop}>Whole trial</button>{/if}
		<span class="num seen">{seen}</span>
	</div>
</div>

<style>
	canvas {
		display: block;
		touch-action: pan-y;
	}
	canvas:focus-visible {
		outline: 2px solid var(--brass);
		outline-offset: -2px;
	}
	.under {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: center;
		padding: 2px 14px 8px;
	}
	[role='group'] {
		display: inline-flex;
		gap: 4px;
	}
	.under .act {
		min-height: 32px;
		padding: 2px 10px;
	}
	.seen {
		font-size: var(--t2);
		color: var(--ink-2);
		margin-left: auto;
	}
</style>
