import adapter from '@sveltejs/adapter-static';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** A static single-page build: FastAPI serves it and falls back to index.html. */
export default {
	preprocess: vitePreprocess(),
	kit: {
		adapter: adapter({ pages: 'build', assets: 'build', fallback: 'index.html' }),
		csp: { mode: 'hash', directives: { 'script-src': ['self'] } }
	}
};
