import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { LEVEL_BUCKET_MS, LevelMeter, transform, type SpeechMap } from '../audio';
import { anyTrim } from '../testing/any-trim';
import { powerAbove6k } from '../testing/high-band';
import { makeStretch, type Piece } from './trim';
import { toSpan } from '../time';
import {
  clearOfWords,
  CrossingMeter,
  findPauses,
  mapOf,
  mixSound,
  pauseToTake,
  planSound,
  quietEdge,
  Room,
  roomSpans,
  sourcesFor
} from '.';

const RATE = 48_000;
/** White noise that a seed decides, -1 to 1. */
function noise(count: number, seed = 1): Float32Array {
  let state = seed;
  return Float32Array.from({ length: count }, () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2147483648 - 1;
  });
}
const tone = (count: number, hz: number, rate = RATE): Float32Array =>
  Float32Array.from({ length: count }, (_, at) => Math.sin((2 * Math.PI * hz * at) / rate));
const scaled = (samples: Float32Array, by: number): Float32Array => samples.map((sample) => sample * by);
const power = (samples: ArrayLike<number>): number => {
  let sum = 0;
  for (let at = 0; at < samples.length; at++) sum += samples[at]! ** 2;
  return sum / Math.max(1, samples.length);
};
const db = (ratio: number): number => 10 * Math.log10(ratio);

/** Reads a sound of one channel, silent outside. */
const reader =
  (sound: Float32Array) =>
  ({ from, to }: { readonly from: number; readonly to: number }): readonly Float32Array[] => [
    Float32Array.from({ length: to - from }, (_, at) => sound[from + at] ?? 0)
  ];
const noRoom = new Room([], 1);
const mixed = (pieces: readonly Piece[], sound: Float32Array, room = noRoom, fadeMs = 8): Float32Array => {
  const plan = planSound({ pieces, fadeMs }, RATE);
  return mixSound(plan, { from: 0, to: plan.length }, reader(sound), { room, channels: 1 })[0]!;
};

describe('the mix of a trim', () => {
  test('has each click where the map says, to the sample, whatever the trim', () => {
    fc.assert(
      fc.property(anyTrim, (trim) => {
        const clicks = Array.from({ length: 20 }, (_, at) => 250 + at * 487);
        const sound = new Float32Array(10 * RATE);
        for (const clickMs of clicks) sound[clickMs * 48] = 1;
        const plain = trim.pieces.map((piece): Piece =>
          piece.kind === 'stretch' ? { ...piece, gainDb: 0, fadeMs: 0 } : piece
        );
        const plan = planSound({ pieces: plain, fadeMs: 0 }, RATE);
        const made = mixSound(plan, { from: 0, to: plan.length }, reader(sound), { room: noRoom, channels: 1 })[0]!;
        const heard = [...made.entries()].flatMap(([at, sample]) => (sample === 1 ? [at] : []));
        const { trimmedAt, laid, indexAt } = mapOf({ pieces: plain });
        const wanted = clicks
          .flatMap((clickMs) => trimmedAt(clickMs))
          .filter((ms) => laid[indexAt(ms)]!.plays === 'sound');
        expect(heard).toEqual(wanted.map((ms) => ms * 48).sort((a, b) => a - b));
      }),
      { numRuns: 30 }
    );
  });

  test('is the same in one piece and in any pieces of it, and asks for no sound it does not name', () => {
    const sound = noise(10 * RATE);
    fc.assert(
      fc.property(
        anyTrim,
        fc.array(fc.integer({ min: 1, max: 30_000 }), { minLength: 1, maxLength: 5 }),
        (trim, sizes) => {
          const plan = planSound(trim, RATE);
          const whole = mixSound(plan, { from: 0, to: plan.length }, reader(sound), { room: noRoom, channels: 1 })[0]!;
          let from = Math.floor(plan.length / 3);
          for (const size of sizes) {
            const to = Math.min(plan.length, from + size);
            const named = sourcesFor(plan, from, to);
            const part = mixSound(
              plan,
              { from, to },
              (range) => {
                expect(named).toContainEqual(range);
                return reader(sound)(range);
              },
              { room: noRoom, channels: 1 }
            )[0]!;
            expect(part).toEqual(whole.slice(from, to));
            from = to;
          }
        }
      ),
      { numRuns: 25 }
    );
  });

  test.each([
    ['speech-like noise', () => scaled(noise(4 * RATE), 0.2)],
    ['a tone', () => scaled(tone(4 * RATE, 440), 0.5)],
    ['a low voice', () => scaled(tone(4 * RATE, 110), 0.4).map((sample, at) => sample + 0.1 * Math.sin(at / 7.3))]
  ])('does not click at joins in %s', (_, make) => {
    const sound = make();
    const pieces = Array.from({ length: 20 }, (_, at) => makeStretch(`p${at}`, at * 190, at * 190 + 83));
    const made = mixed(pieces, sound);
    let atJoins = 0;
    let around = 0;
    for (const { startMs } of mapOf({ pieces }).laid.slice(2, -2)) {
      atJoins += powerAbove6k(made, startMs * 48, RATE);
      around += (powerAbove6k(made, (startMs - 35) * 48, RATE) + powerAbove6k(made, (startMs + 35) * 48, RATE)) / 2;
    }
    expect(db(atJoins / around)).toBeLessThanOrEqual(3);
  });

  test('goes on without a dent where only its level changes, and keeps the power of noise at a join', () => {
    const steady = new Float32Array(2 * RATE).fill(0.5);
    const split = mixed([makeStretch('a', 0, 900), makeStretch('b', 900, 2000, { gainDb: 0.0001 })], steady);
    expect(Math.min(...split.subarray(100, -100))).toBeGreaterThan(0.499);
    const joined = mixed([makeStretch('a', 0, 500), makeStretch('b', 1200, 2000)], noise(2 * RATE), noRoom, 200);
    const whole = power(joined.subarray(0, 400 * 48));
    expect(Math.abs(db(power(joined.subarray(420 * 48, 580 * 48)) / whole))).toBeLessThan(0.7);
  });

  test('is silent where it is silenced, and as loud as is wanted', () => {
    const sound = scaled(noise(2 * RATE), 0.25);
    const made = mixed(
      [
        makeStretch('a', 0, 500),
        makeStretch('b', 500, 1000, { silent: true }),
        makeStretch('c', 1000, 2000, { gainDb: -12 })
      ],
      sound
    );
    expect(power(made.subarray(510 * 48, 990 * 48))).toBe(0);
    expect(db(power(made.subarray(1100 * 48)) / power(sound.subarray(1100 * 48)))).toBeCloseTo(-12, 5);
  });

  test('of a piece of 5 ms is 5 ms long', () => {
    expect(
      mixed([makeStretch('a', 0, 500), makeStretch('b', 700, 705), makeStretch('c', 100, 105)], noise(RATE))
    ).toHaveLength(510 * 48);
    expect(mixed([], noise(RATE))).toHaveLength(0);
  });
});

describe('the sound of the room', () => {
  const material = [0, 1, 2].map((seed) => [
    scaled(noise(RATE / 2, seed + 7), 0.01),
    scaled(noise(RATE / 2, seed + 70), 0.02)
  ]);
  const room = new Room(material, 2);
  const long = room.at(0, 20 * RATE);

  test('is as loud as the room, channel by channel', () => {
    long.forEach((channel, at) => {
      const level = db(power(channel) / power(material[0]![at]!));
      expect(Math.abs(level)).toBeLessThan(0.5);
      for (let second = 0; second < 20; second++)
        expect(Math.abs(db(power(channel.subarray(second * RATE, (second + 1) * RATE)) / power(channel)))).toBeLessThan(
          1
        );
    });
  });

  test('repeats nothing that could be heard', () => {
    const size = 2 ** 20;
    const real = new Float64Array(size);
    const imaginary = new Float64Array(size);
    real.set(long[0]!.subarray(0, size / 2));
    transform(real, imaginary);
    for (let bin = 0; bin < size; bin++) {
      real[bin] = real[bin]! ** 2 + imaginary[bin]! ** 2;
      imaginary[bin] = 0;
    }
    transform(real, imaginary);
    const most = real.subarray(2048, size / 2).reduce((best, value) => Math.max(best, Math.abs(value)), 0);
    expect(most / real[0]!).toBeLessThan(0.05);
  });

  test('is the same wherever it is begun, and silent without material', () => {
    const part = room.at(31_337, 5000);
    expect(part[0]).toEqual(long[0]!.slice(31_337, 36_337));
    expect(power(noRoom.at(0, 1000)[0]!)).toBe(0);
  });
});

/** Sound of 16 kHz by its parts: length in ms, and level. */
function levelsOf(parts: readonly (readonly [number, number])[]): { levels: Uint8Array; speech: SpeechMap } {
  const meter = new LevelMeter(16_000);
  const probabilities: number[] = [];
  let frameEndMs = 0;
  let nowMs = 0;
  parts.forEach(([lengthMs, level], at) => {
    meter.push(Int16Array.from(noise(lengthMs * 16, at + 3), (sample) => sample * level * 32_767));
    nowMs += lengthMs;
    for (; frameEndMs + 32 <= nowMs; frameEndMs += 32) probabilities.push(level > 0.05 ? 0.95 : 0.02);
  });
  return { levels: meter.finish(), speech: { frameMs: 32, probabilities } };
}

describe('pauses', () => {
  test('are found where nobody speaks for long enough, and nowhere else', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 300, max: 2500 }), fc.integer({ min: 100, max: 2500 })), {
          minLength: 1,
          maxLength: 20
        }),
        fc.integer({ min: 300, max: 1500 }),
        (turns, leastMs) => {
          const { levels, speech } = levelsOf(
            turns.flatMap(([said, silent]) => [[said, 0.3] as const, [silent, 0.004] as const])
          );
          const pauses = findPauses(levels, speech, { thresholdDb: 24, leastMs });
          let nowMs = 0;
          const wanted = turns.flatMap(([said, silent]) => {
            const startMs = nowMs + said;
            nowMs = startMs + silent;
            return silent >= leastMs + 10 ? [{ startMs, endMs: nowMs }] : [];
          });
          for (const one of wanted)
            expect(
              pauses.some(
                ({ startMs, endMs }) => Math.abs(startMs - one.startMs) <= 10 && Math.abs(endMs - one.endMs) <= 10
              )
            ).toBe(true);
          const least = turns.filter(([, silent]) => silent >= leastMs - 10).length;
          expect(pauses.length).toBeLessThanOrEqual(least);
        }
      ),
      { numRuns: 40 }
    );
  });

  test('are not where a soft voice speaks, nor where something is loud; a click does not part them', () => {
    const soft = levelsOf([
      [1000, 0.3],
      [700, 0.002],
      [600, 0.012],
      [700, 0.002],
      [1000, 0.3]
    ]);
    const probabilities = [...(soft.speech.probabilities as number[])].map((one, frame) =>
      frame * 32 > 1750 && frame * 32 < 2250 ? 0.9 : one
    );
    expect(findPauses(soft.levels, { frameMs: 32, probabilities }, { thresholdDb: 24, leastMs: 600 })).toHaveLength(2);
    const bell = levelsOf([
      [1000, 0.3],
      [900, 0.002],
      [500, 0.2],
      [900, 0.002],
      [1000, 0.3]
    ]);
    expect(
      findPauses(
        bell.levels,
        { frameMs: 32, probabilities: bell.speech.probabilities },
        { thresholdDb: 24, leastMs: 600 }
      )
    ).toHaveLength(2);
    const click = levelsOf([
      [1000, 0.3],
      [900, 0.002],
      [20, 0.5],
      [900, 0.002],
      [1000, 0.3]
    ]);
    const still = Array.from(click.speech.probabilities, (one, frame) =>
      frame * 32 > 1100 && frame * 32 < 2700 ? 0.02 : one
    );
    expect(
      findPauses(click.levels, { frameMs: 32, probabilities: still }, { thresholdDb: 24, leastMs: 1500 })
    ).toHaveLength(1);
  });

  test('go but for their margins, or but for what they are shortened to', () => {
    const pause = { startMs: 1000, endMs: 3000 } as Parameters<typeof pauseToTake>[0];
    expect(pauseToTake(pause, { marginMs: 100 })).toEqual({ startMs: 1100, endMs: 2900 });
    expect(pauseToTake(pause, { marginMs: 100, shortenToMs: 800 })).toEqual({ startMs: 1400, endMs: 2600 });
    expect(pauseToTake(pause, { marginMs: 1000 })).toBeNull();
    expect(pauseToTake(pause, { marginMs: 100, shortenToMs: 2500 })).toBeNull();
  });
});

test('what goes of a pause lies clear of a word whose time is off', () => {
  const span = toSpan({ startMs: 1000, endMs: 3000 });
  const words = [
    { startMs: 200, endMs: 900 },
    { startMs: 900, endMs: 1300 },
    { startMs: 3100, endMs: 3300 }
  ];
  expect(clearOfWords(span, words)).toEqual({ startMs: 1300, endMs: 3000 });
  expect(clearOfWords(span, [])).toEqual(span);
  expect(clearOfWords(span, [{ startMs: 900, endMs: 3200 }])).toBeNull();
});

describe('edges', () => {
  test('lie at the quietest point in reach, where the waveform crosses zero', () => {
    const parts = [
      [300, 0.3],
      [60, 0.05],
      [20, 0.001],
      [60, 0.05],
      [300, 0.3]
    ] as const;
    const { levels } = levelsOf(parts);
    const crossings = new CrossingMeter(16_000);
    crossings.push(new Int16Array(16 * 740));
    const sound = { levels, crossings: crossings.finish() };
    const edge = quietEdge(sound, 330, { leastMs: 250, mostMs: 450 });
    expect(edge).toBeGreaterThanOrEqual(360);
    expect(edge).toBeLessThanOrEqual(380);
    expect(quietEdge(sound, 330, { leastMs: 250, mostMs: 350 })).toBeLessThanOrEqual(350);
    expect(quietEdge({ ...sound, crossings: null }, 100, { leastMs: 101, mostMs: 103 })).toBe(101);
  });

  test('know of every 5 ms the one that crosses zero', () => {
    const meter = new CrossingMeter(16_000);
    // Crosses zero every 4 ms.
    meter.push(Int16Array.from(tone(16 * 40, 125, 16_000), (sample) => Math.round(sample * 20_000)));
    const found = meter.finish();
    expect(found).toHaveLength(40 / LEVEL_BUCKET_MS);
    found.forEach((ms, bucket) => expect((bucket * LEVEL_BUCKET_MS + ms) % 4).toBe(0));
  });
});

test('the room is where nobody speaks and it is quietest, and nowhere where the recorder was muted', () => {
  const { levels, speech } = levelsOf([
    [1000, 0.3],
    [1500, 0.004],
    [1000, 0.3],
    [800, 0],
    [600, 0.03],
    [1000, 0.3]
  ]);
  const spans = roomSpans(levels, speech);
  expect(spans.length).toBeGreaterThan(0);
  for (const { startMs, endMs } of spans) expect(startMs >= 1100 && endMs <= 2400).toBe(true);
  const spoken = levelsOf([[4000, 0.3]]);
  expect(roomSpans(spoken.levels, spoken.speech)).toHaveLength(1);
});
