/** What the service answers: stored for the sound of the demo, else heard by the engine of this machine. */
import { readdirSync, readFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { chunksBetweenPauses, speechRegions } from '$lib/core/audio';
import { wordsOfChunks, type HeardChunk } from '$lib/core/hearing';
import { MediaFiles } from '$lib/server/media/files';
import { loadSpeech, mapSpeech } from '$lib/server/media/prepare';
import { PocketSphinx } from '$lib/server/recognisers/pocketsphinx/recogniser';
import { serviceWordSchema, type ServiceWord } from '$lib/server/metered/protocol';
import { englishWords } from '$lib/server/spelling';

const SAMPLES_A_SECOND = 16_000;

const storedSchema = z.object({ levels: z.array(z.number()), words: z.array(serviceWordSchema) });
type Stored = z.infer<typeof storedSchema>;

/** Root mean square of each second, in hundredths of a bel: how sound is known again, whoever decoded it. */
export function levelsOf(samples: Int16Array): number[] {
  return Array.from({ length: Math.floor(samples.length / SAMPLES_A_SECOND) }, (_, second) => {
    const part = samples.subarray(second * SAMPLES_A_SECOND, (second + 1) * SAMPLES_A_SECOND);
    const power = part.reduce((sum, sample) => sum + sample ** 2, 0) / part.length;
    return Math.round(100 * Math.log10(power + 1));
  });
}

/** What is quieter is not compared: decoders differ in it. */
const QUIET = 400;
const isSameSound = (one: readonly number[], other: readonly number[]): boolean =>
  Math.abs(one.length - other.length) <= 1 &&
  one
    .slice(0, other.length)
    .every((level, second) => Math.abs(Math.max(QUIET, level) - Math.max(QUIET, other[second]!)) < 12);

export const readStored = (folder: string): Stored[] =>
  readdirSync(folder)
    .filter((name) => name.endsWith('.json'))
    .map((name) => storedSchema.parse(JSON.parse(readFileSync(join(folder, name), 'utf8'))));

export interface Work {
  /** Names the sound's folder. */
  readonly id: string;
  readonly files: MediaFiles;
  readonly terms: readonly string[];
  readonly signal: AbortSignal;
  readonly onProgress: (progress: number) => void;
}

/** The words of the sound that lies in the work's folder. Rejects when aborted. */
export async function hearSound(stored: readonly Stored[], work: Work): Promise<readonly ServiceWord[]> {
  const { id, files, signal, onProgress } = work;
  const bytes = await readFile(files.soundPath(id));
  const samples = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length >> 1);
  const levels = levelsOf(samples);
  const known = stored.find((one) => isSameSound(levels, one.levels));
  if (known !== undefined) return known.words;

  await mapSpeech(files.mainSound(id), { signal, onProgress: (progress) => onProgress(progress * 0.1) });
  const durationMs = samples.length / 16;
  const speech = await loadSpeech(files.speechPath(id));
  const chunks = chunksBetweenPauses(speechRegions(speech, durationMs), speech, { targetMs: 14_000, maxMs: 26_000 });
  const totalMs = chunks.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
  const heard: HeardChunk[] = [];
  await new PocketSphinx().hear({
    soundPath: files.soundPath(id),
    scratchFolder: await files.scratchFolder(),
    terms: work.terms.map((text) => ({ text, soundsLike: null })),
    signal,
    chunks: chunks.map((chunk, position) => ({ ...chunk, position })),
    onChunk: (position, words) => heard.push({ ...chunks[position]!, words }),
    onHeard: (ms) => onProgress(0.1 + (0.9 * ms) / totalMs)
  });
  const { names } = await englishWords();
  return wordsOfChunks(heard, { figures: true, names }, () => '')
    .filter((word) => word.kind === 'speech')
    .map(({ text, startMs, endMs, confidence, alternatives }) => ({
      text,
      startMs,
      endMs,
      confidence: confidence ?? 0,
      alternatives: [...alternatives]
    }));
}
