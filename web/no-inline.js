/** Takes the script that starts the screens out of the built page into a file: the page's policy allows no inline one. */
import { readFileSync, writeFileSync } from 'node:fs';

const page = new URL('../mainspring/web/index.html', import.meta.url);
const html = readFileSync(page, 'utf8');
const inline = [...html.matchAll(/<script>([\s\S]*?)<\/script>/g)];
if (inline.length !== 1)
	throw new Error(`one inline script was expected in index.html, ${inline.length} found`);
const [whole, body] = inline[0];
writeFileSync(new URL('../mainspring/web/_app/begin.js', import.meta.url), body);
writeFileSync(page, html.replace(whole, '<script src="/_app/begin.js"></script>'));
