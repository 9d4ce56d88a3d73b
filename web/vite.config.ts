import adapter from '@sveltejs/adapter-static';
import { sveltekit } from '@sveltejs/kit/vite';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';
import { readFileSync } from 'node:fs';

const version = /__version__ = "(.*?)"/.exec(readFileSync('../mainspring/__init__.py', 'utf8'))?.[1] ?? '';

export default defineConfig({
	plugins: [
		tailwindcss(),
		sveltekit({
			preprocess: vitePreprocess(),
			compilerOptions: { runes: true },
			adapter: adapter({
				pages: '../mainspring/web', // beside the Python that serves it, so that a wheel takes it along
				assets: '../mainspring/web',
				fallback: 'index.html',
				precompress: false,
				strict: true
			}),
			version: { name: version } // the default is a time stamp: file names would change at every build
		})
	],
	build: {
		assetsInlineLimit: 0, // no data: URLs, so that font-src can be 'self'
		cssTarget: ['chrome123', 'edge123', 'firefox128', 'safari17.5'] // keep light-dark() as written
	},
	server: {
		host: '127.0.0.1',
		port: 5173,
		strictPort: true,
		proxy: { '/api': 'http://127.0.0.1:8765' }
	},
	test: {
		include: ['src/**/*.test.ts'],
		environment: 'happy-dom',
		environmentOptions: { happyDOM: { url: 'http://localhost/' } }
	},
	// tests read the cases that the server's tests read too
	...(process.env.VITEST ? { resolve: { conditions: ['browser'] }, server: { fs: { allow: ['..'] } } } : {})
});
