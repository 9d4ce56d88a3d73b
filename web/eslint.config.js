import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
	js.configs.recommended,
	...ts.configs.recommended,
	...svelte.configs.recommended,
	{ languageOptions: { globals: { ...globals.browser, ...globals.node } } },
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: { parserOptions: { parser: ts.parser } }
	},
	{
		rules: {
			// one origin at the root: there is no base path that a link could miss
			'svelte/no-navigation-without-resolve': 'off'
		}
	},
	{
		// the stations' drawings are our own constants, nothing that anybody typed
		files: ['src/lib/components/Strip.svelte'],
		rules: { 'svelte/no-at-html-tags': 'off' }
	},
	{ ignores: ['build/', '.svelte-kit/', 'node_modules/', 'src/lib/api/schema.d.ts', 'static/mode.js'] }
);
