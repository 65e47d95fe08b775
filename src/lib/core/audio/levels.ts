/** The waveform as it is drawn: least, greatest and root-mean-square level of every few milliseconds. */

export const LEVEL_BUCKET_MS = 5;
/** Bytes a bucket: least and greatest as signed bytes, RMS as an unsigned one. */
export const LEVEL_BYTES = 3;

/** Square-root companding keeps quiet speech visible in a byte: 1/127 stands for -84 dBFS. */
export const compand = (amplitude: number): number =>
  Math.sign(amplitude) * Math.round(Math.sqrt(Math.min(1, Math.abs(amplitude))) * 127);
/** The amplitude, -1 to 1, that a companded byte stands for. */
export const expand = (byte: number): number => Math.sign(byte) * (byte / 127) ** 2;

/** Measures a stream of 16-bit mono samples, pushed in pieces of any length. */
export class LevelMeter {
  readonly #perBucket: number;
  #bytes = new Uint8Array(3 * 4096);
  #count = 0;
  #inBucket = 0;
  #least = 0;
  #greatest = 0;
  #squares = 0;

  constructor(sampleRateHz: number) {
    this.#perBucket = (sampleRateHz * LEVEL_BUCKET_MS) / 1000;
  }

  push(samples: Int16Array): void {
    for (const sample of samples) {
      if (sample < this.#least) this.#least = sample;
      if (sample > this.#greatest) this.#greatest = sample;
      this.#squares += sample * sample;
      if (++this.#inBucket === this.#perBucket) this.#close();
    }
  }

  /** The levels of all that was pushed, `LEVEL_BYTES` a bucket; a last, shorter bucket counts. */
  finish(): Uint8Array {
    if (this.#inBucket > 0) this.#close();
    return this.#bytes.slice(0, this.#count * LEVEL_BYTES);
  }

  #close(): void {
    const at = this.#count * LEVEL_BYTES;
    if (at + LEVEL_BYTES > this.#bytes.length) {
      const grown = new Uint8Array(this.#bytes.length * 2);
      grown.set(this.#bytes);
      this.#bytes = grown;
    }
    this.#bytes[at] = compand(this.#least / 32768) & 0xff;
    this.#bytes[at + 1] = compand(this.#greatest / 32768);
    this.#bytes[at + 2] = compand(Math.sqrt(this.#squares / this.#inBucket) / 32768);
    this.#count++;
    this.#inBucket = 0;
    this.#least = 0;
    this.#greatest = 0;
    this.#squares = 0;
  }
}

/** Root-mean-square level of a bucket, 0 to 1; 0 outside. */
export const rmsOf = (levels: Uint8Array, bucket: number): number => expand(levels[bucket * LEVEL_BYTES + 2] ?? 0);

/** Least and greatest level, -1 to 1, of the buckets between two times. */
export function levelsBetween(levels: Uint8Array, startMs: number, endMs: number): { least: number; greatest: number } {
  const from = Math.max(0, Math.floor(startMs / LEVEL_BUCKET_MS));
  const to = Math.min(levels.length / LEVEL_BYTES, Math.max(from + 1, Math.ceil(endMs / LEVEL_BUCKET_MS)));
  let least = 0;
  let greatest = 0;
  for (let bucket = from; bucket < to; bucket++) {
    least = Math.min(least, (levels[bucket * LEVEL_BYTES]! << 24) >> 24);
    greatest = Math.max(greatest, levels[bucket * LEVEL_BYTES + 1]!);
  }
  return { least: expand(least), greatest: expand(greatest) };
}

/** Stretches, at least `minLengthMs` long, in which the RMS level stays below `thresholdDb` dBFS but for clicks shorter than 40 ms. */
export function quietStretches(
  levels: Uint8Array,
  options: { thresholdDb?: number; minLengthMs: number }
): { startMs: number; endMs: number }[] {
  const limit = compand(10 ** ((options.thresholdDb ?? -45) / 20));
  const buckets = levels.length / LEVEL_BYTES;
  const found: { startMs: number; endMs: number }[] = [];
  let from = 0;
  let loud = 0;
  const close = (to: number): void => {
    if ((to - from) * LEVEL_BUCKET_MS >= options.minLengthMs)
      found.push({ startMs: from * LEVEL_BUCKET_MS, endMs: to * LEVEL_BUCKET_MS });
  };
  for (let bucket = 0; bucket < buckets; bucket++) {
    if (levels[bucket * LEVEL_BYTES + 2]! <= limit) {
      loud = 0;
      continue;
    }
    if (++loud * LEVEL_BUCKET_MS >= 40) {
      close(Math.max(from, bucket + 1 - loud));
      from = bucket + 1;
    }
  }
  close(buckets);
  return found;
}
