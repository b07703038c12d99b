import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

export default defineConfig({
	plugins: [tailwindcss(), sveltekit()],
	build: {
		assetsInlineLimit: 0,
		rolldownOptions: {
			output: {
				// what screens share comes in one piece: forty small ones take the first screen longer to fetch than to read
				codeSplitting: { groups: [{ name: 'shared', test: /\/src\/lib\//, minShareCount: 2 }] }
			}
		}
	},
	server: { proxy: { '/api': 'http://127.0.0.1:8740' } }
});
