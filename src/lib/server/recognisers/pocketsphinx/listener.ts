/** Hears sound that is still being written: its words so far, settled at each pause. */
import { open, type FileHandle } from 'node:fs/promises';
import { downsample, WAVE_HEAD_BYTES } from '$lib/core/audio';
import type { HeardWord } from '$lib/core/hearing';
import { narratedBytes, utteranceEnd, type LiveWord } from '$lib/core/narration';
import { toSpan } from '$lib/core/time';
import type { Decoder } from './native';

const HEARD_SAMPLES_A_MS = 16;
/** Fed at once at most. */
const PIECE_MS = 200;
/** As much of both sides of a sample is needed to resample it. */
const MARGIN_MS = 1;
/** An utterance that never pauses, or a noise that is none, ends after as long. */
const LONGEST_MS = { withWords: 30_000, without: 5000 };

export class Listener {
  readonly #decoder: Decoder;
  #heardMs: number;
  /** Where the utterance in hand began. */
  #beganMs: number | null = null;
  #pending: readonly LiveWord[] = [];

  constructor(decoder: Decoder, fromMs: number) {
    this.#decoder = decoder;
    this.#heardMs = fromMs;
  }

  /** Hears the file on, as far as it is written: words that stand since the last time, and what may still change. */
  async hearTo(soundPath: string, toMs: number): Promise<{ settled: LiveWord[]; pending: LiveWord[] }> {
    const settled: LiveWord[] = [];
    const file = await open(soundPath, 'r');
    try {
      for (let leftMs; (leftMs = toMs - MARGIN_MS - this.#heardMs) > 0;) {
        const samples = await read(file, this.#heardMs, Math.min(PIECE_MS, leftMs));
        settled.push(...this.#hear(samples));
      }
    } finally {
      await file.close();
    }
    return { settled, pending: [...this.#pending] };
  }

  /** What has been settled by it. */
  #hear(samples: Int16Array): readonly LiveWord[] {
    if (this.#beganMs === null) this.#decoder.beginUtterance();
    const beganMs = (this.#beganMs ??= this.#heardMs);
    const words = this.#decoder.hearOn(samples);
    this.#heardMs += samples.length / HEARD_SAMPLES_A_MS;
    this.#pending = this.#placed(words, beganMs);
    const lastedMs = this.#heardMs - beganMs;
    const isOver =
      utteranceEnd(this.#pending, this.#heardMs) !== null ||
      lastedMs >= LONGEST_MS[this.#pending.length > 0 ? 'withWords' : 'without'];
    if (!isOver) return [];
    const settled = this.#placed(this.#decoder.endUtterance(), beganMs);
    this.#beganMs = null;
    this.#pending = [];
    return settled;
  }

  #placed(words: readonly HeardWord[], beganMs: number): LiveWord[] {
    return words.map(({ text, startMs, endMs }) => ({
      text,
      ...toSpan({ startMs: startMs + beganMs, endMs: Math.min(endMs + beganMs, this.#heardMs) })
    }));
  }
}

/** A stretch of 48 kHz as 16 kHz. */
async function read(file: FileHandle, fromMs: number, lengthMs: number): Promise<Int16Array> {
  const marginMs = Math.min(MARGIN_MS, fromMs);
  const bytes = new Uint8Array(narratedBytes(marginMs + lengthMs + MARGIN_MS));
  await file.read(bytes, 0, bytes.length, WAVE_HEAD_BYTES + narratedBytes(fromMs - marginMs));
  const samples = Float32Array.from(new Int16Array(bytes.buffer));
  return downsample(samples, narratedBytes(marginMs) / 2, lengthMs * HEARD_SAMPLES_A_MS);
}
