/**
 * The sound of the room, for put-in pauses: made of the recording's own quiet stretches, as long as is wanted. Each short
 * frame is one of theirs with the phases of its spectrum turned at random, so that level and colour stay and nothing is
 * heard again (a phase vocoder's frames without their order; sine windows, which add up to one in power).
 */
import { LEVEL_BUCKET_MS, LEVEL_BYTES, speechRegions, transform, type SpeechMap, rmsOf } from '../audio';
import { toSpan, type Span } from '../time';

const MOST_MATERIAL_MS = 4000;
const PART_MS = 200;
/** As quiet as the quietest fifth, and so much more. */
const QUIET_SHARE = 0.2;
const ABOVE_DB = 3;
/** Of the time in which nobody speaks. */
const LEAST_LIVE = 0.5;
/** Speech begins and ends more quietly than the map says. */
const AWAY_MS = 120;

/** Where a recording's room is heard alone, the quietest 4 s of it at most; where somebody always speaks, the quietest moment. */
export function roomSpans(levels: Uint8Array, speech: SpeechMap): Span[] {
  const recordedMs = Math.floor(levels.length / LEVEL_BYTES) * LEVEL_BUCKET_MS;
  const regions = speechRegions(speech, recordedMs, { padMs: AWAY_MS });
  const parts: { startMs: number; power: number; isSpoken: boolean }[] = [];
  let next = 0;
  for (let startMs = 0; startMs + PART_MS <= recordedMs; startMs += PART_MS) {
    while (next < regions.length && regions[next]!.endMs <= startMs) next++;
    const isSpoken = regions[next] !== undefined && regions[next]!.startMs < startMs + PART_MS;
    parts.push({ startMs, power: powerOf(levels, startMs), isSpoken });
  }
  // Where a recorder was muted now and then there is no room; where it is mostly silent, that is the room.
  const live = parts.filter(({ power }) => power > 0);
  const unspoken = parts.filter(({ isSpoken }) => !isSpoken);
  const heard = unspoken.filter(({ power }) => power > 0);
  const free = heard.length < unspoken.length * LEAST_LIVE ? unspoken : heard;
  const usable = (free.length > 0 ? free : live).sort((a, b) => a.power - b.power);
  const typical = usable[Math.floor(usable.length * QUIET_SHARE)];
  if (typical === undefined) return [];
  const chosen = usable
    .filter(({ power }) => power <= typical.power * 10 ** (ABOVE_DB / 10))
    .slice(0, free.length > 0 ? MOST_MATERIAL_MS / PART_MS : 1)
    .sort((a, b) => a.startMs - b.startMs);
  const spans: { startMs: number; endMs: number }[] = [];
  for (const { startMs } of chosen) {
    const last = spans.at(-1);
    if (last?.endMs === startMs) last.endMs = startMs + PART_MS;
    else spans.push({ startMs, endMs: startMs + PART_MS });
  }
  return spans.map(toSpan);
}

function powerOf(levels: Uint8Array, startMs: number): number {
  const from = startMs / LEVEL_BUCKET_MS;
  const count = PART_MS / LEVEL_BUCKET_MS;
  let sum = 0;
  for (let bucket = from; bucket < from + count; bucket++) sum += rmsOf(levels, bucket) ** 2;
  return sum / count;
}

/** Samples of a frame: 43 ms at 48 kHz. */
const FRAME = 2048;
const HOP = FRAME / 2;
const WINDOW = Float64Array.from({ length: FRAME }, (_, at) => Math.sin((Math.PI * (at + 0.5)) / FRAME));

/** Sound of the room without end; the same at the same place whenever it is asked for. */
export class Room {
  readonly #material: readonly (readonly Float32Array[])[];
  readonly #channels: number;
  readonly #frames = new Map<number, readonly Float64Array[]>();

  /** `stretches`: quiet ones of the recording, each with its channels; those shorter than a frame are of no use. */
  constructor(stretches: readonly (readonly Float32Array[])[], channels: number) {
    this.#material = stretches.filter(([first]) => (first?.length ?? 0) >= FRAME);
    this.#channels = channels;
  }

  /** `count` samples from `from` on, a channel each; silent where the recording has no room. */
  at(from: number, count: number): Float32Array[] {
    const made = Array.from({ length: this.#channels }, () => new Float32Array(count));
    if (this.#material.length === 0) return made;
    for (let frame = Math.floor(from / HOP) - 1; frame * HOP < from + count; frame++) {
      const own = this.#frame(frame);
      const start = frame * HOP - from;
      for (let channel = 0; channel < this.#channels; channel++) {
        const into = made[channel]!;
        for (let at = Math.max(0, -start); at < FRAME && start + at < count; at++)
          into[start + at] = into[start + at]! + own[channel]![at]!;
      }
    }
    return made;
  }

  #frame(index: number): readonly Float64Array[] {
    const known = this.#frames.get(index);
    if (known !== undefined) return known;
    const random = randomOf(index);
    const stretch = this.#material[Math.floor(random() * this.#material.length)]!;
    const offset = Math.floor(random() * (stretch[0]!.length - FRAME + 1));
    // One turn for all channels, so that what stands between them stays there.
    const turns = Float64Array.from({ length: FRAME / 2 + 1 }, () => random() * 2 * Math.PI);
    const made = Array.from({ length: this.#channels }, (_, channel) =>
      turned((stretch[channel] ?? stretch[0])!.subarray(offset, offset + FRAME), turns)
    );
    this.#frames.set(index, made);
    if (this.#frames.size > 8) this.#frames.delete(this.#frames.keys().next().value!);
    return made;
  }
}

function turned(samples: Float32Array, turns: Float64Array): Float64Array {
  const real = Float64Array.from(samples, (sample, at) => sample * WINDOW[at]!);
  const imaginary = new Float64Array(FRAME);
  transform(real, imaginary);
  for (let bin = 1; bin < FRAME / 2; bin++) {
    const [cosine, sine] = [Math.cos(turns[bin]!), Math.sin(turns[bin]!)];
    const [a, b] = [real[bin]!, imaginary[bin]!];
    real[bin] = real[FRAME - bin] = a * cosine - b * sine;
    imaginary[bin] = a * sine + b * cosine;
    imaginary[FRAME - bin] = -imaginary[bin]!;
  }
  real[0] = 0;
  imaginary[0] = 0;
  // The inverse transform by the forward one: conjugated before, and parted by the number of samples.
  for (let bin = 0; bin < FRAME; bin++) imaginary[bin] = -imaginary[bin]!;
  transform(real, imaginary);
  // What the first window took of the power is given back.
  return real.map((value, at) => (value / FRAME) * WINDOW[at]! * Math.SQRT2);
}

/** Numbers from 0 to 1 that a seed decides (Mulberry32). */
function randomOf(seed: number): () => number {
  let state = (seed * 0x9e3779b1) >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}
