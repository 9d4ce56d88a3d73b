/** The round without a browser: what is found, how much is drawn, what is made and taken in. */
import { afterEach, expect, it, vi } from 'vitest';
import { answering } from '../test-answers';
import { AT_ONCE, RoundPage, stageInHand, stagesOf, type Line } from './round-page.svelte';

afterEach(() => vi.unstubAllGlobals());

const line = (tag: string, more: Partial<Line> = {}) =>
	({
		id: tag,
		tag,
		title: 'pump',
		severity: 'clear',
		headline: 'All clear',
		words: 'Survey',
		states: [],
		...more
	}) as Line;

function round(...lines: Line[]): RoundPage {
	const page = new RoundPage();
	page.round = {
		stages: { survey: 'Survey', run: 'Run sheet' },
		sites: [
			{ id: 'a', name: 'North', units: 'si', stops: 0, saved: 0, measured: 0, lines },
			{ id: 'b', name: 'South', units: 'us', stops: 0, saved: 0, measured: 0, lines: [] }
		]
	};
	return page;
}

const tags = (page: RoundPage) => page.drawn.map(({ site, lines }) => [site.name, lines.map((l) => l.tag)]);

it('finds by tag, finding and site, and by what needs somebody', () => {
	const page = round(
		line('P-1'),
		line('P-2', { severity: 'stop', headline: 'Too hot' }),
		line('P-3', { words: 'Handed over' })
	);
	expect(tags(page)).toEqual([
		['North', ['P-1', 'P-2', 'P-3']],
		['South', []]
	]);
	page.wanted = ' TOO hot ';
	expect(tags(page)).toEqual([['North', ['P-2']]]);
	page.wanted = 'south';
	expect(tags(page)).toEqual([]);
	page.wanted = '';
	page.only = 'over';
	expect(tags(page)).toEqual([['North', ['P-3']]]);
});

it('draws as many as are looked at, and more on the way down', () => {
	const page = round(...Array.from({ length: 150 }, (_, i) => line(`P-${i}`)));
	expect(page.count).toBe(150);
	expect(page.drawn.map(({ lines }) => lines.length)).toEqual([AT_ONCE]);
	page.more();
	page.more();
	expect(page.drawn.map(({ lines }) => lines.length)).toEqual([150, 0]);
	page.fromTheTop();
	expect(page.drawn[0]?.lines.length).toBe(AT_ONCE);
});

it('leads to the stage in hand, or to the hand-over where all is done', () => {
	const stages = { survey: 'Survey', run: 'Run sheet' };
	expect(stageInHand(line('P', { states: ['done', 'now'] }), stages)).toBe('run');
	expect(stageInHand(line('P', { states: ['done', 'done'] }), stages)).toBe('handover');
	expect(stagesOf(line('P', { states: ['done'] }), stages).map((s) => s.state)).toEqual(['done', 'todo']);
});

it('makes the site first, then the line on it; what is refused is said', async () => {
	let refuse = false;
	const calls = answering(() =>
		refuse ? { status: 422, body: { detail: 'tag: empty' } } : { status: 201, body: {} }
	);
	const fresh = { site: 'new', siteName: 'West', tag: 'P-9', title: '', application: 'booster', model: '' };
	const page = round();
	const id = await page.make(fresh);
	expect(calls.map((c) => new URL(c.url).pathname)).toEqual(['/api/sites', '/api/lines']);
	expect(calls[1]?.body).toMatchObject({ id, site_id: calls[0]?.body['id'], tag: 'P-9' });
	refuse = true;
	expect(await page.make({ ...fresh, site: 'a' })).toBeUndefined();
	expect(page.problem).toBe('tag: empty');
});

it('takes a file in, or says which file was not taken and why', async () => {
	answering(({ url }) =>
		url.includes('by=Technician')
			? { status: 200, body: { id: 'x' } }
			: { status: 422, body: { detail: 'no' } }
	);
	expect(await round().take(new File(['{}'], 'p.json'))).toBe('x');
	answering(() => ({ status: 422, body: { detail: 'version: 9 is newer' } }));
	const page = round();
	expect(await page.take(new File(['{}'], 'p.json'))).toBeUndefined();
	expect(page.problem).toBe('p.json: version: 9 is newer');
});
