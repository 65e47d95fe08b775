import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

/** The bench as one program for Node. */
export default defineConfig({
  publicDir: false,
  resolve: { alias: { $lib: fileURLToPath(new URL('./src/lib', import.meta.url)) } },
  build: { ssr: 'bench/main.ts', target: 'node20', outDir: '.svelte-kit/bench', emptyOutDir: true }
});
