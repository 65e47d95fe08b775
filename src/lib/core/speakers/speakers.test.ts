import { toSpan } from '../time';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { makeWord } from '../track';
import { SAMPLES_A_MS } from '../audio';
import { assignVoices, speakersOf, tellVoices, voiceOf, voiceStretches, type VoiceSums } from '.';

/** A second and a half of a voice: pulses at its pitch through two resonances, which wander as vowels do. */
function voice(pitchHz: number, stretch: number, seed: number): Int16Array {
  const samples = new Int16Array(1500 * SAMPLES_A_MS);
  let state = seed;
  const random = (): number => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
  let phase = 0;
  const filters = [
    { hz: 0, a: 0, b: 0 },
    { hz: 0, a: 0, b: 0 }
  ];
  for (let at = 0; at < samples.length; at++) {
    if (at % 2400 === 0) {
      filters[0]!.hz = (300 + random() * 500) * stretch;
      filters[1]!.hz = (1000 + random() * 1200) * stretch;
    }
    phase += (pitchHz * (1 + 0.05 * Math.sin(at / 3000))) / 16_000;
    let value = (random() - 0.5) * 0.02;
    if (phase >= 1) {
      phase -= 1;
      value += 1;
    }
    for (const filter of filters) {
      const out = value + 2 * 0.97 * Math.cos((2 * Math.PI * filter.hz) / 16_000) * filter.a - 0.97 ** 2 * filter.b;
      filter.b = filter.a;
      filter.a = out;
      value = out * 0.2;
    }
    samples[at] = Math.max(-32_000, Math.min(32_000, value * 60_000));
  }
  return samples;
}

const talk = (order: readonly number[]): VoiceSums[] =>
  order.map((who, at) => voiceOf(voice([110, 205, 150][who]!, [1, 1.18, 0.88][who]!, 100 + at * 17)));

describe('voices', () => {
  const order = [0, 0, 1, 0, 1, 1, 0, 1, 0, 0, 1, 1, 0, 1];

  test('are told apart, their number given or not, and numbered as they begin to speak', () => {
    const sums = talk(order);
    expect(tellVoices(sums, 2)).toEqual(order);
    expect(tellVoices(sums, 'auto')).toEqual(order);
    expect(tellVoices(talk(order.map((who) => 1 - who)), 2)).toEqual(order);
  });

  test('one voice is one; three are three; what is not voiced is somebody’s', () => {
    expect(new Set(tellVoices(talk(order.map(() => 0)), 'auto'))).toEqual(new Set([0]));
    const three = [0, 1, 2, 0, 1, 2, 0, 1, 2, 0, 1, 2];
    expect(tellVoices(talk(three), 3)).toEqual(three);
    const silent = voiceOf(new Int16Array(16_000));
    expect(silent.frames).toBe(0);
    expect(tellVoices([...talk([0, 1, 0, 1]), silent], 2).slice(0, 4)).toEqual([0, 1, 0, 1]);
    expect(tellVoices([silent, silent], 'auto')).toEqual([0, 0]);
    expect(tellVoices([], 2)).toEqual([]);
  });
});

test('stretches cover the speech without a gap, none much longer than a piece', () => {
  const anyRegions = fc
    .array(fc.record({ gap: fc.integer({ min: 0, max: 3000 }), length: fc.integer({ min: 60, max: 20_000 }) }))
    .map((list) => {
      let nowMs = 0;
      return list.map(({ gap, length }) => {
        const startMs = nowMs + gap;
        nowMs = startMs + length;
        return { startMs, endMs: nowMs };
      });
    });
  fc.assert(
    fc.property(anyRegions, (regions) => {
      const stretches = voiceStretches(regions);
      const sum = (spans: readonly { startMs: number; endMs: number }[]): number =>
        spans.reduce((total, span) => total + span.endMs - span.startMs, 0);
      expect(sum(stretches)).toBe(sum(regions));
      for (const stretch of stretches) expect(stretch.endMs - stretch.startMs).toBeLessThan(4000);
    })
  );
});

describe('voices of words', () => {
  let minted = 0;
  const mint = (): string => `s${minted++}`;
  const words = ['We', 'hear', 'it.', 'Do', 'you?', 'Yes.'].map((text, at) =>
    makeWord({ id: `w${at}`, text, startMs: at * 400, endMs: at * 400 + 380, timing: 'heard' })
  );

  test('a breath is of the voice that speaks most of it; a new voice begins a paragraph', () => {
    const turns = [
      { ...toSpan({ startMs: 0, endMs: 1300 }), voice: 0 },
      { ...toSpan({ startMs: 1300, endMs: 2000 }), voice: 1 },
      { ...toSpan({ startMs: 2000, endMs: 2400 }), voice: 0 }
    ];
    const speakers = speakersOf(turns, mint);
    const told = assignVoices(words, turns, speakers);
    const [first, second] = speakers;
    expect(speakers.map(({ name }) => name)).toEqual(['Speaker 1', 'Speaker 2']);
    expect(told.map(({ speakerId }) => speakerId)).toEqual([
      ...[first!.id, first!.id, first!.id],
      ...[second!.id, second!.id, first!.id]
    ]);
    expect(told.filter(({ startsParagraph }) => startsParagraph).map(({ text }) => text)).toEqual(['We', 'Do', 'Yes.']);
  });

  test('of one voice nothing is said', () => {
    const turns = [{ ...toSpan({ startMs: 0, endMs: 3000 }), voice: 0 }];
    expect(speakersOf(turns, mint)).toEqual([]);
    expect(assignVoices(words, turns, [])).toBe(words);
  });
});
