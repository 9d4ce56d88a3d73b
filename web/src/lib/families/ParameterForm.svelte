<script lang="ts">
	/** One parameter as the manual prints it: number, label, which setting it is, how it is shown and held. */
	import SettingSearch from './SettingSearch.svelte';
	import Special from './Special.svelte';
	import type { FamilyPage, Parameter } from './family-page.svelte';

	let { at }: { at: FamilyPage } = $props();

	const p = $derived(at.parameter);
	const language = $derived(at.language);
	const word = $derived(at.words[p?.setting ?? '']);
	const problems = $derived(at.problems[at.at] ?? []);
	const dial = $derived(at.dials[at.at]);

	const number = (event: Event) => {
		const text = (event.currentTarget as HTMLInputElement).value.trim().replace(',', '.');
		return text === '' || Number.isNaN(Number(text)) ? undefined : Number(text);
	};
	const text = (event: Event) => (event.currentTarget as HTMLInputElement).value;
	const NUMBERS: [keyof Parameter, string, string][] = [
		['scale', 'Dialled per one shown', '1'],
		['offset', 'and added', '0'],
		['decimals', 'Decimals', '0'],
		['step', 'Step', 'last decimal'],
		['low', 'From', '–'],
		['high', 'to', '–']
	];
</script>

{#if p}
	<form onsubmit={(event) => event.preventDefault()} aria-label="Parameter {p.number}">
		{#if dial}
			<p class="dial" data-bad={dial.problem !== ''}>
				<span>On the line beside:</span> <b class="num">{dial.text}</b>
				{dial.says}{dial.rounded ? ', rounded' : ''}
			</p>
		{/if}
		{#each problems as problem (problem.words)}<p class:grave={problem.grave} class="wrong">
				{problem.words}
			</p>{/each}
		<div class="pair">
			<label
				>Number<input
					class="field num"
					value={p.number}
					onchange={(event) => at.set({ number: text(event) })}
				/></label
			>
			<label
				>Label on the display<input
					class="field"
					value={p.label[language] ?? ''}
					onchange={(event) => at.set({ label: { ...p.label, [language]: text(event) } })}
				/></label
			>
		</div>
		<SettingSearch {at} />
		{#if word}<p class="say">
				<b>{word.label}.</b>
				{word.definition}
				{word.derived} Off: {word.wrong.toLowerCase()}
			</p>{/if}
		<label
			>Menu<input
				class="field"
				value={p.page ?? ''}
				onchange={(event) => at.set({ page: text(event) })}
			/></label
		>
		{#if word && word.dimension === null}
			<fieldset>
				<legend>Code and word of each choice</legend>
				{#each Object.entries(word.choices) as [id, label] (id)}
					{@const known = p.choices?.[id]}
					<div class="choice">
						<span>{label}</span>
						<input
							class="field num"
							aria-label="Code for {label}"
							value={known?.code ?? ''}
							onchange={(event) =>
								at.set({ choices: { ...p.choices, [id]: { ...known, code: text(event) } } })}
						/>
						<input
							class="field"
							aria-label="Word for {label}"
							value={known?.word?.[language] ?? ''}
							onchange={(event) =>
								at.set({
									choices: {
										...p.choices,
										[id]: { code: known?.code ?? '', word: { ...known?.word, [language]: text(event) } }
									}
								})}
						/>
					</div>
				{/each}
			</fieldset>
		{:else}
			<div class="three">
				<label
					>Unit<input
						class="field"
						value={p.unit ?? ''}
						onchange={(event) => at.set({ unit: text(event) })}
					/></label
				>
				{#each NUMBERS as [name, label, usual] (name)}
					<label
						>{label}<input
							class="field num"
							inputmode="decimal"
							placeholder={usual}
							value={(p[name] as number | undefined) ?? ''}
							onchange={(event) => at.set({ [name]: number(event) })}
						/></label
					>
				{/each}
			</div>
			<label
				>Percent of<select
					class="field"
					value={p.of ?? ''}
					onchange={(event) => at.set({ of: event.currentTarget.value })}
				>
					<option value="">– it shows the value itself</option>
					{#each Object.values(at.words)
						.flatMap((w) => (w ? [w] : []))
						.filter((w) => w.dimension === word?.dimension) as other (other.id)}
						<option value={other.id}>{other.label}</option>
					{/each}
				</select></label
			>
		{/if}
		<div class="pair">
			{#each ['50', '60'] as region (region)}
				<label
					>Factory value, {region} Hz<input
						class="field num"
						value={p.default?.[region] ?? ''}
						onchange={(event) => at.set({ default: { ...p.default, [region]: text(event) } })}
					/></label
				>
			{/each}
		</div>
		<Special {at} {p} />
		<div class="flags">
			<label
				><input
					type="checkbox"
					checked={p.stopped}
					onchange={(event) => at.set({ stopped: event.currentTarget.checked })}
				/> only while it stands</label
			>
			<label
				><input
					type="checkbox"
					checked={p.cycle}
					onchange={(event) => at.set({ cycle: event.currentTarget.checked })}
				/> acts after power off and on</label
			>
		</div>
		<label
			>Doubtful<input
				class="field"
				placeholder="what is not sure of it"
				value={p.doubt ?? ''}
				onchange={(event) => at.set({ doubt: text(event) })}
			/></label
		>
		<div class="acts">
			<button type="button" class="act" data-quiet onclick={() => at.prove()}
				>Read back on a drive today</button
			>
			<span class="say"
				>{p.proven ? `Last by ${p.proven.by}, ${p.proven.on}` : 'Never proven on a drive'}</span
			>
		</div>
		<div class="acts">
			<button type="button" class="act" data-quiet onclick={() => at.shift(-1)}>Earlier</button>
			<button type="button" class="act" data-quiet onclick={() => at.shift(1)}>Later</button>
			<button type="button" class="act" data-quiet onclick={() => at.remove()}>Remove</button>
		</div>
	</form>
{/if}

<style>
	form {
		display: grid;
		gap: 9px;
	}
	label,
	legend {
		font-size: var(--t1);
		color: var(--ink-3);
		font-weight: 600;
		display: grid;
		gap: 2px;
	}
	.field {
		font-size: var(--t3);
		width: 100%;
		min-width: 0;
	}
	.field:not(.num) {
		font-family: var(--sans);
	}
	.pair {
		display: grid;
		grid-template-columns: 1fr 1.6fr;
		gap: 8px;
	}
	.three {
		display: grid;
		grid-template-columns: repeat(4, minmax(0, 1fr));
		gap: 8px;
		align-items: end;
	}
	.choice {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 64px 120px;
		gap: 6px;
		align-items: center;
		font-size: var(--t2);
		margin-top: 4px;
	}
	.flags,
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
		align-items: center;
	}
	.flags label {
		display: flex;
		gap: 6px;
		font-size: var(--t3);
		font-weight: 400;
		color: var(--ink);
		align-items: center;
		min-height: 32px;
	}
	.dial {
		background: #1d2327;
		color: #d9d3c4;
		border-radius: var(--r);
		padding: 8px 12px;
		font-size: var(--t3);
	}
	.dial b {
		font-size: var(--t5);
		color: #f4efe2;
		margin: 0 6px;
	}
	.dial[data-bad='true'] {
		outline: 2px solid var(--stop);
	}
	.wrong {
		font-size: var(--t2);
		color: var(--ink-2);
	}
	.grave {
		color: var(--stop);
		font-weight: 600;
	}
</style>
