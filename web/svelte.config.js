import adapter from '@sveltejs/adapter-static'
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte'

const served = '../src/Gradus.Server/wwwroot'

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  kit: {
    // A single page, served by the same process as the data: every deep link falls back to index.html.
    adapter: adapter({ pages: served, assets: served, fallback: 'index.html', precompress: true }),
    csp: {
      mode: 'hash',
      directives: {
        'default-src': ['self'],
        'script-src': ['self'],
        'style-src': ['self', 'unsafe-inline'],
        'img-src': ['self', 'data:'],
        'object-src': ['none'],
        'base-uri': ['self'],
      },
    },
  },
}
