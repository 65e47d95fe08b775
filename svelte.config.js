import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  kit: {
    adapter: adapter(),
    // The server's own guard (src/lib/server/http/guard.ts) checks the origin of every unsafe request, forms or not.
    csrf: { trustedOrigins: ['*'] },
    csp: {
      mode: 'nonce',
      directives: {
        'default-src': ['self'],
        'script-src': ['self', 'wasm-unsafe-eval'],
        'style-src': ['self'],
        // The one style attribute there is: the framework's own announcer for screen readers.
        'style-src-attr': ['unsafe-hashes', 'sha256-S8qMpvofolR8Mpjy4kQvEm7m1q8clzU4dfDH0AmvZjo='],
        'img-src': ['self', 'data:', 'blob:'],
        'media-src': ['self', 'blob:'],
        'worker-src': ['self', 'blob:'],
        'object-src': ['none'],
        'base-uri': ['none'],
        'frame-ancestors': ['none']
      }
    },
    typescript: {
      config: (config) => {
        config.include.push(
          '../*.ts',
          '../*.js',
          '../e2e/**/*.ts',
          '../bench/**/*.ts',
          '../demo/**/*.ts',
          '../stand-ins/**/*.ts',
          '../tests/**/*.ts'
        );
        return config;
      }
    }
  }
};
