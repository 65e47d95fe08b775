/** A new cut of a recording beside the one before: compared in a process of its own, kept in a file. */
import { msSchema } from '$lib/core/time';
import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import type { CutComparison } from '$lib/core/cuts';
import { runToDone } from '../children';
import { makeWhole, type MediaFiles } from './files';

const spans = z.array(z.object({ startMs: msSchema, endMs: msSchema }));
const comparison = z.object({
  shared: z.array(z.object({ newMs: msSchema, oldMs: msSchema, lengthMs: msSchema, state: z.enum(['kept', 'moved']) })),
  removed: spans,
  added: spans
});

/** Writes the comparison beside the new cut's sound. Rejects when aborted. */
export async function compareWithCut(
  files: MediaFiles,
  id: string,
  earlierId: string,
  options: { readonly signal: AbortSignal; readonly onProgress: (progress: number) => void }
): Promise<void> {
  const sounds = { oldSoundPath: files.soundPath(earlierId), newSoundPath: files.soundPath(id) };
  await makeWhole(files.comparisonPath(id), (comparisonPath) =>
    runToDone('cuts', { ...sounds, comparisonPath }, options)
  );
}

export const loadComparison = async (files: MediaFiles, id: string): Promise<CutComparison> =>
  comparison.parse(JSON.parse(await readFile(files.comparisonPath(id), 'utf8')));
