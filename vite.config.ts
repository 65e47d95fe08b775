import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { build, defineConfig, type Plugin } from 'vite';

/** In development the server's own processes are built beside the app and kept fresh. */
function serverProcesses(): Plugin {
  return {
    name: 'server-processes',
    apply: 'serve',
    async configureServer() {
      if (process.env.VITEST) return;
      await build({
        configFile: 'vite.workers.config.ts',
        build: { outDir: '.svelte-kit/processes', emptyOutDir: true, watch: {} }
      });
    }
  };
}

export default defineConfig({
  plugins: [tailwindcss(), sveltekit(), serverProcesses()],
  worker: { format: 'es' }
});
