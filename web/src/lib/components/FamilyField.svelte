<script lang="ts">
	/** Of which family the drive is: one that ships, or one that people made. */
	import { answer, api, type Schemas } from '../api/client';
	import ChoiceField from './ChoiceField.svelte';

	let { field }: { field: Schemas['FieldView'] } = $props();

	let families = $state.raw<Schemas['FamilySummary'][]>([]);
	$effect(() => {
		answer(api.GET('/api/families')).then(
			(found) => (families = found),
			() => undefined // without a link the choice stays as it is
		);
	});
	const choices = $derived({
		...Object.fromEntries(families.map((f) => [f.id, f.shipped ? `${f.name} (made up)` : f.name])),
		neutral: 'Any other'
	});
</script>

<ChoiceField field={{ ...field, choices }} />
