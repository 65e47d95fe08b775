/** A process that unpacks a font from outside and reads it: whatever is wrong with it, only this process ends. */
import { readFile, writeFile } from 'node:fs/promises';
import { z } from 'zod';
import { readFontFacts } from '$lib/server/faces/facts';
import { FontRefused, unpackFont } from '$lib/server/faces/sfnt';
import { asked } from './worker';

const { arrivedPath, path } = z.object({ arrivedPath: z.string(), path: z.string() }).parse(await asked());
try {
  const sfnt = await unpackFont(await readFile(arrivedPath));
  const facts = readFontFacts(sfnt);
  await writeFile(path, sfnt);
  process.send?.({ type: 'taken', facts });
} catch (error) {
  if (!(error instanceof FontRefused)) throw error;
  process.send?.({ type: 'refused', why: error.message });
}
