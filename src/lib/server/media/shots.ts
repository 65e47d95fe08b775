/** Shot changes: where one frame of the picture has little in common with the one before it. */
import { readFile, rename, writeFile } from 'node:fs/promises';
import { z } from 'zod';
import type { Ms } from '$lib/core/time';
import { sceneChanges } from './ffmpeg';
import type { MediaFiles } from './files';

const stored = z.array(z.int().min(0));
const underWay = new Map<string, Promise<readonly Ms[]>>();

/** In order. Looked for once a recording; those who ask meanwhile wait for the same answer. */
export function findShots(files: MediaFiles, id: string, durationMs: Ms): Promise<readonly Ms[]> {
  const known = underWay.get(id);
  if (known !== undefined) return known;
  const search = load(files, id, durationMs).finally(() => underWay.delete(id));
  underWay.set(id, search);
  return search;
}

async function load(files: MediaFiles, id: string, durationMs: Ms): Promise<readonly Ms[]> {
  const path = files.shotsPath(id);
  try {
    return stored.parse(JSON.parse(await readFile(path, 'utf8')));
  } catch {
    // Not looked for yet, or broken off: it is looked for now.
  }
  const shotsMs = await sceneChanges(files.mediaPath(id), { timeoutMs: 60_000 + durationMs });
  await writeFile(`${path}.new`, JSON.stringify(shotsMs));
  await rename(`${path}.new`, path);
  return shotsMs;
}
