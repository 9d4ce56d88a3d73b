<script lang="ts">
	/** Photos of a plate beside the fields, so that one reads and types on one screen. */
	import { answer, api, ApiProblem, type Schemas } from '../api/client';
	import { openLine } from '../line/context';
	import { session } from '../session.svelte';

	let { station, name }: { station: string; name: string } = $props();

	const line = openLine();
	let photos = $state.raw<Schemas['PhotoView'][]>([]);
	let shown = $state(0);
	let close = $state(false);
	let busy = $state(false);
	let problem = $state('');

	const here = $derived(photos.filter((p) => p.station === station));
	const current = $derived(here[Math.min(shown, here.length - 1)]);
	const source = (photo: Schemas['PhotoView']) => `/api/lines/${line.id}/photos/${photo.id}`;

	$effect(() => {
		const id = line.id;
		answer(api.GET('/api/lines/{line_id}/photos', { params: { path: { line_id: id } } }))
			.then((found) => (photos = found))
			.catch(() => undefined);
	});

	async function take(files: FileList | null | undefined): Promise<void> {
		const file = files?.[0];
		if (!file) return;
		busy = true;
		problem = '';
		try {
			photos = await answer(
				api.PUT('/api/lines/{line_id}/photos/{photo_id}', {
					params: {
						path: { line_id: line.id, photo_id: crypto.randomUUID() },
						query: { station, by: session.by }
					},
					body: file as never,
					bodySerializer: (body) => body as never,
					headers: { 'Content-Type': file.type || 'application/octet-stream' }
				})
			);
			shown = photos.filter((p) => p.station === station).length - 1;
		} catch (error) {
			problem = error instanceof ApiProblem ? error.message : 'It could not be kept; try again';
		}
		busy = false;
	}

	async function remove(photo: Schemas['PhotoView']): Promise<void> {
		photos = await answer(
			api.DELETE('/api/lines/{line_id}/photos/{photo_id}', {
				params: { path: { line_id: line.id, photo_id: photo.id }, query: { by: session.by } }
			})
		);
		shown = 0;
		close = false;
	}

	function paste(event: ClipboardEvent): void {
		const files = event.clipboardData?.files;
		if (files?.length) void take(files);
	}
</script>

<svelte:window onpaste={paste} />

<section aria-label="Photo of the plate">
	{#if current}
		<div class="frame" data-close={close}>
			<button
				type="button"
				onclick={() => (close = !close)}
				title={close ? 'See all of it' : 'See it closer; drag to move'}
				aria-pressed={close}
			>
				<img src={source(current)} alt="Plate of the {name.toLowerCase()}, photographed by {current.by}" />
			</button>
		</div>
	{/if}
	<p class="say">
		<label class="add"
			>{busy ? 'Keeping it …' : current ? 'Another photo' : `Photo of the ${name.toLowerCase()}’s plate`}
			<input
				type="file"
				accept="image/jpeg,image/png,image/webp"
				onchange={(event) => {
					void take(event.currentTarget.files);
					event.currentTarget.value = '';
				}}
			/></label
		>
		{#if here.length > 1}
			<button type="button" onclick={() => (shown = (shown + 1) % here.length)}
				>{Math.min(shown, here.length - 1) + 1} of {here.length}</button
			>
		{/if}
		{#if current}
			{@const photo = current}
			<button type="button" onclick={() => void remove(photo)}>Remove</button>
		{/if}
		{#if problem}<b role="alert">{problem}</b>{/if}
	</p>
</section>

<style>
	section {
		margin-bottom: 10px;
	}
	.frame {
		border: 1px solid var(--rule-strong);
		border-radius: var(--r);
		background: var(--paper);
		overflow: hidden;
	}
	.frame[data-close='true'] {
		overflow: auto;
		max-height: 330px;
	}
	.frame button {
		display: block;
		padding: 0;
		border: 0;
		background: none;
		cursor: zoom-in;
		width: 100%;
	}
	.frame[data-close='true'] button {
		width: 280%;
		cursor: zoom-out;
	}
	img {
		display: block;
		width: 100%;
		max-height: 230px;
		object-fit: contain;
	}
	.frame[data-close='true'] img {
		max-height: none;
	}
	p {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 14px;
		align-items: center;
		padding: 2px 0;
	}
	.add {
		position: relative;
		color: var(--steel);
		font-weight: 600;
		cursor: pointer;
		min-height: 32px;
		display: inline-flex;
		align-items: center;
		text-decoration: underline;
	}
	.add:focus-within {
		outline: 2px solid var(--steel);
	}
	.add input {
		position: absolute;
		inset: 0;
		opacity: 0;
		cursor: pointer;
		width: 100%;
	}
	p button {
		color: var(--ink-3);
		background: none;
		border: 0;
		text-decoration: underline;
		cursor: pointer;
		min-height: 32px;
	}
	b {
		color: var(--stop);
	}
</style>
