/** A process that reads a script aloud and lays the reading on a recording's speech; the library's faults stay in it. */
import { open } from 'node:fs/promises';
import { CEPSTRA, CEPSTRA_RATE_HZ, CepstralAnalyser, FRAME_STEP } from '$lib/core/audio/cepstra';
import { isSpoken, placeByReading, strangeness, warp, type Frames } from '$lib/core/fitting';
import { type Span, toSpan } from '$lib/core/time';
import { messageOf } from '$lib/core/message-of';
import { readingRequest, type ReadingRequest, type ReadingSaid } from '$lib/server/recognisers/reading/messages';
import { Speaker } from '$lib/server/recognisers/reading/speak';

const FRAME_MS = (FRAME_STEP / CEPSTRA_RATE_HZ) * 1000;
/** Cepstra, and the level beside them. */
const WIDTH = CEPSTRA + 1;
/** What is read at once: longer texts would only fill the memory. */
const WORDS_AT_ONCE = 400;
/** Quieter than this, a reading pauses: the natural logarithm of the mean square. */
const PAUSE_LEVEL = 7;

const say = (message: ReadingSaid): void => void process.send?.(message);

class FrameList {
  readonly #analyser = new CepstralAnalyser();
  #values = new Float32Array(WIDTH * 6000);
  count = 0;

  push(samples: Int16Array): void {
    const row = new Float64Array(CEPSTRA);
    for (let from = 0; from + FRAME_STEP <= samples.length; from += FRAME_STEP) {
      if ((this.count + 1) * WIDTH > this.#values.length) {
        const grown = new Float32Array(this.#values.length * 2);
        grown.set(this.#values);
        this.#values = grown;
      }
      this.#analyser.cepstra(samples, from, row);
      let squares = 0;
      for (let at = 0; at < FRAME_STEP; at++) squares += samples[from + at]! ** 2;
      this.#values.set(row, this.count * WIDTH);
      this.#values[this.count * WIDTH + CEPSTRA] = Math.log(squares / FRAME_STEP + 1);
      this.count++;
    }
  }
  level(frame: number): number {
    return this.#values[frame * WIDTH + CEPSTRA]!;
  }
  /** The values, and behind them how each changes over 60 ms. */
  frames(): Frames {
    const values = new Float32Array(this.count * WIDTH * 2);
    const of = (frame: number, at: number): number =>
      this.#values[Math.min(this.count - 1, Math.max(0, frame)) * WIDTH + at]!;
    for (let frame = 0; frame < this.count; frame++)
      for (let at = 0; at < WIDTH; at++) {
        values[frame * WIDTH * 2 + at] = of(frame, at);
        values[frame * WIDTH * 2 + WIDTH + at] = of(frame + 3, at) - of(frame - 3, at);
      }
    return { count: this.count, width: WIDTH * 2, values };
  }
}

/** To 16 kHz by straight lines between samples: enough for cepstra. */
function resampled(samples: Int16Array, rateHz: number): Int16Array {
  const step = rateHz / CEPSTRA_RATE_HZ;
  return Int16Array.from({ length: Math.floor(samples.length / step) }, (_, at) => {
    const from = Math.floor(at * step);
    const part = at * step - from;
    return samples[from]! * (1 - part) + (samples[from + 1] ?? 0) * part;
  });
}

/** What the synthesiser reads in one go is one word to it: those that are part of it share its time by their letters. */
function shareStarts(words: ReadingRequest['words'], starts: (number | null)[], endMs: number): void {
  for (let from = 0; from < words.length; from++) {
    const fromMs = starts[from];
    if (fromMs === null || fromMs === undefined) continue;
    let to = from + 1;
    while (to < words.length && starts[to] === null) to++;
    const letters = words.slice(from, to).map((word) => (isSpoken(word) ? word.text.length : 0));
    const total = letters.reduce((sum, count) => sum + count, 0);
    let passed = 0;
    letters.forEach((count, step) => {
      if (count > 0) starts[from + step] = fromMs + (((starts[to] ?? endMs) - fromMs) * passed) / total;
      passed += count;
    });
  }
}

/** The script read aloud, and when each of its words is. */
function readAloud(asked: ReadingRequest): { frames: FrameList; words: (Span | null)[] } {
  const speaker = new Speaker(asked.voices);
  const frames = new FrameList();
  const starts = new Array<number | null>(asked.words.length).fill(null);
  for (let from = 0; from < asked.words.length; from += WORDS_AT_ONCE) {
    const some = asked.words.slice(from, from + WORDS_AT_ONCE);
    // The synthesiser counts characters, not UTF-16 units.
    const offsets: number[] = [];
    let length = 0;
    for (const { text, spaceBefore } of some) {
      if (length > 0 && spaceBefore) length++;
      offsets.push(length);
      length += [...text].length;
    }
    const { samples, words } = speaker.speak(
      some.reduce((all, word) => all + (all !== '' && word.spaceBefore ? ' ' : '') + word.text, '')
    );
    const fromMs = frames.count * FRAME_MS;
    for (const { offset, startMs } of words) {
      let at = offsets.findLastIndex((one) => one <= offset);
      // It counts a sign before a word to what stands ahead of it.
      if (at < 0) at = 0;
      starts[from + at] ??= fromMs + startMs;
    }
    frames.push(resampled(samples, speaker.rateHz));
    say({ type: 'progress', progress: (0.4 * (from + some.length)) / asked.words.length });
  }
  const endMs = frames.count * FRAME_MS;
  shareStarts(asked.words, starts, endMs);
  const words = starts.map((startMs, at): Span | null => {
    if (startMs === null) return null;
    const next = starts.slice(at + 1, at + 40).find((one) => one !== null) ?? endMs;
    let last = Math.min(frames.count, Math.floor(next / FRAME_MS)) - 1;
    while (last * FRAME_MS > startMs && frames.level(last) < PAUSE_LEVEL) last--;
    return toSpan({ startMs, endMs: Math.max(startMs + FRAME_MS, (last + 1) * FRAME_MS) });
  });
  return { frames, words };
}

async function lay(asked: ReadingRequest): Promise<void> {
  const { frames, words } = readAloud(asked);
  const sound = new FrameList();
  const msOfFrame: number[] = [];
  const file = await open(asked.soundPath, 'r');
  for (const { startMs, endMs } of asked.regions) {
    const samples = new Int16Array(Math.round((endMs - startMs) * (CEPSTRA_RATE_HZ / 1000)));
    const { bytesRead } = await file.read(
      new Uint8Array(samples.buffer),
      0,
      samples.byteLength,
      Math.round(startMs) * (CEPSTRA_RATE_HZ / 1000) * 2
    );
    const before = sound.count;
    sound.push(samples.subarray(0, bytesRead >> 1));
    for (let at = before; at < sound.count; at++) msOfFrame.push(startMs + (at - before) * FRAME_MS);
  }
  await file.close();
  say({ type: 'progress', progress: 0.6 });
  const [read, heard] = [frames.frames(), sound.frames()];
  const found = warp(read, heard);
  const script = asked.words.map((word) => ({ ...word, forms: [], startsParagraph: false }));
  const placed = placeByReading(script, { words, frameMs: FRAME_MS }, found, msOfFrame);
  say({
    type: 'laid',
    strangeness: strangeness(read, heard, found),
    words: placed.map(({ startMs, endMs, place }) => ({ startMs, endMs, place }))
  });
}

process.on('message', (raw) => {
  lay(readingRequest.parse(raw)).catch((error: unknown) => say({ type: 'unable', reason: messageOf(error) }));
});
process.on('disconnect', () => process.exit(0));
