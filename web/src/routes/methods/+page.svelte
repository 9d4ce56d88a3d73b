<script lang="ts">
	/** Every method: formula, source, and a calculator that runs it. */
	import { answer, api, type Schemas } from '$lib/api/client';
	import { Reading } from '$lib/api/reading.svelte';
	import Formula from '$lib/components/Formula.svelte';
	import TopBar from '$lib/components/TopBar.svelte';
	import WorkingSheet from '$lib/components/WorkingSheet.svelte';
	import { session } from '$lib/session.svelte';
	import { asTitle } from '$lib/words';

	const reading = new Reading<Schemas['MethodView'][]>();
	const methods = $derived(reading.value ?? []);
	let wanted = $state('');
	let chosen = $state('pump_shaft_power');
	let inputs = $state<Record<string, string>>({});
	let result = $state.raw<Schemas['CalculationView'] | null>(null);
	let refused = $state('');

	$effect(() => reading.read(() => answer(api.GET('/api/methods'))));

	const found = $derived(
		methods.filter((m) =>
			`${m.id} ${m.title} ${m.topic} ${m.source}`.toLowerCase().includes(wanted.toLowerCase())
		)
	);
	const topics = $derived([...Map.groupBy(found, (m) => m.topic)]);
	const method = $derived(methods.find((m) => m.id === chosen));

	function choose(id: string): void {
		chosen = id;
		inputs = {};
		result = null;
		refused = '';
	}

	function unit(parameter: Schemas['MethodParameterView']): string {
		return session.units.symbol(parameter.dimension, session.system);
	}

	async function run(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		if (!method) return;
		const given = Object.fromEntries(
			method.parameters
				.filter((p) => inputs[p.name]?.trim())
				.map((p) => {
					const text = inputs[p.name] ?? '';
					const bare = !p.text && p.dimension && /^[\s\d.,eE+;-]+$/.test(text);
					const symbol = unit(p);
					return [
						p.name,
						bare && symbol
							? text
									.split(';')
									.map((t) => `${t} ${symbol}`)
									.join(';')
							: text
					];
				})
		);
		try {
			result = await answer(
				api.POST('/api/methods/{method_id}', {
					params: { path: { method_id: method.id } },
					body: { inputs: given }
				})
			);
			refused = '';
		} catch (error) {
			result = null;
			refused = (error as Error).message;
		}
	}
</script>

<svelte:head><title>Methods · Mainspring</title></svelte:head>

<div class="whole">
	<TopBar>
		<h1>Methods</h1>
		<span class="say">{methods.length} computations, each with its source</span>
	</TopBar>
	<div class="two" data-beside="left" style:--wide="360px" style:--narrow="360px">
		<nav aria-label="Methods">
			<input class="field" placeholder="Find a method …" aria-label="Find a method" bind:value={wanted} />
			{#if reading.problem}<p class="problem" role="alert">{reading.problem}</p>{/if}
			{#each topics as [topic, of] (topic)}
				<details open={wanted.trim() !== '' || topic === method?.topic}>
					<summary>{asTitle(topic)} <small class="num">{of.length}</small></summary>
					{#each of as each (each.id)}
						<button
							type="button"
							aria-current={each.id === chosen ? 'true' : undefined}
							onclick={() => choose(each.id)}>{each.title}</button
						>
					{/each}
				</details>
			{/each}
		</nav>
		<main>
			{#if method}
				<h2>{method.title}</h2>
				<p class="formula num"><Formula text={method.formula} /></p>
				<p class="say">{method.source} ({method.source_kind})</p>
				<form onsubmit={run}>
					{#each method.parameters as parameter (parameter.name)}
						<label>
							<span class="num"><Formula text={parameter.symbol} /></span>
							<span
								>{parameter.name.replaceAll('_', ' ')}{parameter.many
									? ', separated by ;'
									: ''}{#if parameter.says || parameter.bounds}<small
										>{[parameter.says, session.words(parameter.bounds)].filter(Boolean).join('; ')}</small
									>{/if}</span
							>
							<input
								class="field"
								bind:value={inputs[parameter.name]}
								required={parameter.required}
								placeholder={parameter.default === null
									? ''
									: typeof parameter.default === 'number'
										? session.units.number(parameter.default, parameter.dimension, session.system)
										: parameter.default}
							/>
							<i>{unit(parameter)}</i>
						</label>
					{/each}
					<button class="act">Work it out</button>
				</form>
				{#if refused}<p class="problem" role="alert">{refused}</p>{/if}
				{#if result?.working}<div class="result"><WorkingSheet working={result.working} /></div>{/if}
				{#if result && Object.keys(result.values).length > 1}
					<p class="num">
						{Object.entries(result.values)
							.map(([n, v]) => `${n} = ${v.toPrecision(6)}`)
							.join('   ')}
					</p>
				{/if}
			{/if}
		</main>
	</div>
</div>

<style>
	.whole {
		display: grid;
		grid-template-rows: 48px minmax(0, 1fr);
		min-height: 0;
	}
	h1 {
		font-size: var(--t4);
		font-weight: 650;
	}
	nav {
		overflow: auto;
		position: relative;
		border-right: 1px solid var(--rule);
		background: var(--sheet);
		padding: 12px 0 24px;
	}
	nav .field {
		margin: 0 16px 10px;
		width: calc(100% - 32px);
		font-family: var(--sans);
		font-weight: 400;
	}
	summary {
		display: flex;
		justify-content: space-between;
		align-items: center;
		padding: 0 16px;
		min-height: 44px;
		font-weight: 600;
		cursor: pointer;
		border-top: 1px solid var(--rule);
	}
	summary small {
		color: var(--ink-3);
		font-weight: 400;
	}
	nav button {
		display: block;
		width: 100%;
		text-align: left;
		padding: 7px 16px;
		min-height: 36px;
		font-size: var(--t3);
		color: var(--ink-2);
		background: none;
		border: 0;
		cursor: pointer;
	}
	nav button[aria-current] {
		background: var(--steel-wash);
		color: var(--ink);
		font-weight: 650;
	}
	main {
		overflow: auto;
		position: relative;
		padding: 20px 26px 40px;
	}
	main h2 {
		font-size: var(--t5);
	}
	.formula {
		font-size: var(--t4);
		margin: 10px 0 4px;
	}
	form {
		display: grid;
		gap: 6px;
		margin-top: 16px;
		max-width: 560px;
		justify-items: start;
	}
	label {
		display: grid;
		grid-template-columns: 60px 1fr 150px 60px;
		gap: 10px;
		align-items: center;
		width: 100%;
		color: var(--ink-2);
	}
	label small {
		display: block;
		font-size: var(--t1);
		color: var(--ink-3);
		line-height: 1.35;
	}
	label i {
		font-style: normal;
		color: var(--ink-3);
	}
	.act {
		margin-top: 8px;
	}
	.result {
		margin-top: 18px;
		max-width: 640px;
	}
	.problem {
		margin-top: 12px;
	}
</style>
