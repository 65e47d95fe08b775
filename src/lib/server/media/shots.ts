/** Shot changes: where one frame of the picture has little in common with the one before it. */
import { readFile, writeFile } from 'node:fs/promises';
import { z } from 'zod';
import { type Ms, msSchema, wholeMs } from '$lib/core/time';
import type { Recording } from '../store/recordings';
import { sceneChanges } from './ffmpeg';
import { makeWhole, type MediaFiles, type PlayedRecording } from './files';

const stored = z.array(msSchema);
const underWay = new Map<string, Promise<readonly Ms[]>>();

/** In order. Looked for once a recording; those who ask meanwhile wait for the same answer. */
type Shown = PlayedRecording & Pick<Recording, 'durationMs'>;

export function findShots(files: MediaFiles, recording: Shown): Promise<readonly Ms[]> {
  const { id } = recording;
  const known = underWay.get(id);
  if (known !== undefined) return known;
  const search = load(files, recording).finally(() => underWay.delete(id));
  underWay.set(id, search);
  return search;
}

async function load(files: MediaFiles, recording: Shown): Promise<readonly Ms[]> {
  const path = files.shotsPath(recording.id);
  try {
    return stored.parse(JSON.parse(await readFile(path, 'utf8')));
  } catch {
    // There is no result yet, or a broken one.
  }
  const found = await sceneChanges(files.played(recording), { timeoutMs: 60_000 + recording.durationMs });
  const shotsMs = found.map(wholeMs);
  await makeWhole(path, (unfinished) => writeFile(unfinished, JSON.stringify(shotsMs)));
  return shotsMs;
}
