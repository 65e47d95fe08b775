/** A process that lays a new cut of a recording beside the one before, by the sounds of both. */
import { closeSync, fstatSync, openSync, readSync, writeFileSync } from 'node:fs';
import { z } from 'zod';
import { compareCuts, type Sound } from '$lib/core/cuts';
import { asked, tellDone, tellProgress } from './worker';

const { oldSoundPath, newSoundPath, comparisonPath } = z
  .object({ oldSoundPath: z.string(), newSoundPath: z.string(), comparisonPath: z.string() })
  .parse(await asked());

function openSound(path: string): Sound & { close(): void } {
  const file = openSync(path, 'r');
  return {
    length: fstatSync(file).size >> 1,
    read: (from, count) => {
      const samples = new Int16Array(count);
      const bytes = readSync(file, new Uint8Array(samples.buffer), 0, samples.byteLength, from * 2);
      return samples.subarray(0, bytes >> 1);
    },
    close: () => closeSync(file)
  };
}

const sounds = [openSound(oldSoundPath), openSound(newSoundPath)] as const;
writeFileSync(comparisonPath, JSON.stringify(compareCuts(...sounds, tellProgress)));
for (const sound of sounds) sound.close();
tellDone();
