import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const source = (path: string): string => fileURLToPath(new URL(`./src/${path}`, import.meta.url));
const standIn = (path: string): string => fileURLToPath(new URL(`./stand-ins/${path}`, import.meta.url));

/**
 * What runs beside the app, in threads or processes of its own, and the program that starts it all.
 * Built after the app into the same folder, so that `node build` starts `build/index.js`.
 */
export default defineConfig({
  publicDir: false,
  resolve: { alias: { $lib: source('lib') } },
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'build',
    emptyOutDir: false,
    rolldownOptions: {
      external: [/^\.\/handler\.js$/],
      input: {
        index: source('processes/start.ts'),
        seed: source('processes/seed.ts'),
        'speech-map': source('processes/speech-map.ts'),
        engine: source('processes/engine.ts'),
        ear: source('processes/ear.ts'),
        voices: source('processes/voices.ts'),
        reading: source('processes/reading.ts'),
        clean: source('processes/clean.ts'),
        sync: source('processes/sync.ts'),
        cuts: source('processes/cuts.ts'),
        doubts: source('processes/doubts.ts'),
        captions: source('processes/captions.ts'),
        'trim-sound': source('processes/trim-sound.ts'),
        font: source('processes/font.ts'),
        pdf: source('processes/pdf.ts'),
        'metered-service': standIn('metered-service/main.ts'),
        'video-site': standIn('video-site/main.ts'),
        'make-answers': standIn('metered-service/make-answers.ts')
      },
      output: { entryFileNames: '[name].js', chunkFileNames: 'shared/[name]-[hash].js' }
    }
  }
});
