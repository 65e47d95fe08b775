/** Finding the programs that run beside the app: they are built next to it, wherever it was put. */
import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export function programFile(name: string): string {
  const inDevelopment = resolve('.svelte-kit/processes', `${name}.js`);
  if (import.meta.env.DEV && existsSync(inDevelopment)) return inDevelopment;
  for (let folder = dirname(fileURLToPath(import.meta.url)); ; folder = dirname(folder)) {
    const here = join(folder, `${name}.js`);
    if (existsSync(here) && existsSync(join(folder, 'handler.js'))) return here;
    if (dirname(folder) === folder) throw new Error(`the program ${name}.js is not beside the app: run npm run build`);
  }
}
