/** What the server knows of a recording's sound for cutting it, read from its files where it is asked for. */
import { closeSync, existsSync, fstatSync, openSync, readSync } from 'node:fs';
import { open, readFile, writeFile } from 'node:fs/promises';
import { logPitch, SAMPLES_A_MS } from '$lib/core/audio';
import type { SpeechMap } from '$lib/core/audio';
import { CrossingMeter, type JoinEvidence } from '$lib/core/trims';
import type { App } from '../app';
import { DECODED_RATE_HZ, samplesOf } from '../media/ffmpeg';
import { makeWhole, type MediaFiles } from '../media/files';
import { loadSpeech } from '../media/prepare';

/** Levels and speech map of a recording; waits until they are there. */
export async function soundKnown(
  app: App,
  recordingId: string,
  signal: AbortSignal
): Promise<{ readonly levels: Uint8Array; readonly speech: SpeechMap }> {
  const { id } = await app.preparing.prepared(recordingId, signal);
  await app.preparing.speechMapped(id, signal);
  const [levels, speech] = await Promise.all([app.files.readLevels(id), loadSpeech(app.files.speechPath(id))]);
  return { levels, speech };
}

/** Where the waveform crosses zero, a byte for every 5 ms; measured once. */
export async function crossingsOf(files: MediaFiles, id: string, signal: AbortSignal): Promise<Uint8Array> {
  const path = files.crossingsPath(id);
  if (existsSync(path)) return readFile(path);
  const meter = new CrossingMeter(DECODED_RATE_HZ);
  const sound = await open(files.soundPath(id));
  try {
    for await (const piece of sound.createReadStream({ highWaterMark: 1 << 18, autoClose: false })) {
      signal.throwIfAborted();
      meter.push(samplesOf(piece as Buffer));
    }
  } finally {
    await sound.close();
  }
  const crossings = meter.finish();
  await makeWhole(path, (unfinished) => writeFile(unfinished, crossings));
  return crossings;
}

/** Reads stretches of a recording's sound of 16 kHz, a few at a time. */
export class SoundReader {
  readonly #file: number;
  readonly #samples: number;

  constructor(path: string) {
    this.#file = openSync(path, 'r');
    this.#samples = Math.floor(fstatSync(this.#file).size / 2);
  }

  /** Shorter where the recording ends. */
  read(fromMs: number, toMs: number): Int16Array {
    const from = Math.max(0, Math.round(fromMs * SAMPLES_A_MS));
    const count = Math.max(0, Math.min(this.#samples, Math.round(toMs * SAMPLES_A_MS)) - from);
    const samples = new Int16Array(count);
    readSync(this.#file, samples, 0, count * 2, from * 2);
    return samples;
  }

  close(): void {
    closeSync(this.#file);
  }
}

/** Everything that joins are judged by; to be closed. */
export async function joinEvidence(
  app: App,
  recordingId: string,
  signal: AbortSignal
): Promise<{ readonly evidence: JoinEvidence; readonly close: () => void }> {
  const known = await soundKnown(app, recordingId, signal);
  const crossings = await crossingsOf(app.files, recordingId, signal);
  const reader = new SoundReader(app.files.soundPath(recordingId));
  const PITCHED_MS = 40;
  const pitchOf = (fromMs: number, toMs: number): number | null => {
    const samples = reader.read(fromMs, toMs);
    const found: number[] = [];
    for (let at = 0; at + PITCHED_MS * SAMPLES_A_MS <= samples.length; at += 20 * SAMPLES_A_MS) {
      const pitch = logPitch(samples, at);
      if (pitch !== null) found.push(pitch);
    }
    found.sort((a, b) => a - b);
    return found[found.length >> 1] ?? null;
  };
  return { evidence: { ...known, crossings, pitchOf }, close: () => reader.close() };
}
