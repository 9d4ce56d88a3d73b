<script lang="ts">
	/** The dark rail: where one can go. */
	import { page } from '$app/state';

	const places = [
		{ href: '/', label: 'Round', art: 'M4 6h16M4 12h16M4 18h10' },
		{ href: '/families', label: 'Drives', art: 'M7 3h10v18H7zM10 6h4v4h-4zM10 14h0M14 14h0M10 17h0M14 17h0' },
		{
			href: '/methods',
			label: 'Methods',
			art: 'M5 5h14M8 5c0 8-1 14-3 14M16 5v11c0 3 3 3 4 1'
		}
	];
	const here = (href: string) =>
		href === '/' ? page.url.pathname === '/' : page.url.pathname.startsWith(href);
</script>

<nav class="rail" aria-label="Main">
	<a href="/" class="spring" aria-label="Mainspring, to the Round">
		<svg viewBox="0 0 24 24" aria-hidden="true"
			><path
				d="M12 12c0-1.500 2-1.500 2 .3 0 2.500-4.600 2.300-4.600-.6 0-4 7-4 7.200.8.200 5.200-9.700 5.500-9.900-.6C6.500 5.800 18 5.200 19 12c.5 4-2 8-7 8"
			/></svg
		>
	</a>
	{#each places as place (place.href)}
		<a href={place.href} aria-current={here(place.href) ? 'page' : undefined} title={place.label}
			><svg viewBox="0 0 24 24" aria-hidden="true"><path d={place.art} /></svg><span>{place.label}</span></a
		>
	{/each}
</nav>

<style>
	.rail {
		background: var(--rail);
		display: flex;
		flex-direction: column;
		align-items: center;
		padding-top: 8px;
		gap: 6px;
	}
	a {
		width: 50px;
		min-height: 46px;
		display: grid;
		place-items: center;
		align-content: center;
		gap: 1px;
		border-radius: var(--r);
		color: var(--rail-ink);
		text-decoration: none;
	}
	a[aria-current] {
		background: var(--rail-on);
		color: #fff;
		box-shadow: inset 2px 0 0 #c79a44;
	}
	span {
		font-size: var(--t1);
	}
	svg {
		width: 20px;
		height: 20px;
		stroke: currentColor;
		fill: none;
		stroke-width: 1.6;
	}
	@media (max-width: 600px) {
		.rail {
			flex-direction: row;
			padding: 0 6px;
		}
		a {
			display: flex;
			width: auto;
			gap: 7px;
			padding: 0 12px;
		}
		span {
			font-size: var(--t2);
		}
		a[aria-current] {
			box-shadow: inset 0 -3px 0 #c79a44;
		}
	}
	.spring svg {
		width: 26px;
		height: 26px;
		stroke: #d4ab5b;
	}
</style>
