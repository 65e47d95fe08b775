import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { toSpan, wholeMs } from '../time';
import {
  againFrom,
  hasTrouble,
  Incoming,
  isLeftOut,
  LIVE_PAUSE_MS,
  measureInput,
  narratedBytes,
  narratedMs,
  placeInScript,
  scriptWords,
  sentencesOf,
  UNWATCHED,
  utteranceEnd,
  watchInput,
  type LiveWord,
  type SoundBlock
} from '.';

/** Words of 300 ms, one behind the other; `|` is a pause of a second. */
function spoken(text: string): LiveWord[] {
  let ms = 500;
  return text.split(' ').flatMap((word) => {
    if (word === '|') {
      ms += 1000;
      return [];
    }
    const one = { text: word, ...toSpan({ startMs: ms, endMs: ms + 300 }) };
    ms += 300;
    return [one];
  });
}
const said = (words: readonly LiveWord[]): string => words.map(({ text }) => text).join(' ');

const anyWords = fc
  .array(fc.record({ gapMs: fc.integer({ min: 0, max: 1500 }), lengthMs: fc.integer({ min: 10, max: 900 }) }), {
    maxLength: 30
  })
  .map((list) => {
    let ms = 0;
    return list.map(({ gapMs, lengthMs }, at): LiveWord => {
      const startMs = ms + gapMs;
      ms = startMs + lengthMs;
      return { text: `w${at}`, ...toSpan({ startMs, endMs: ms }) };
    });
  });

describe('what a microphone brings', () => {
  const RATE_HZ = 48_000;
  /** Samples that say where they stand. */
  const ramp = (from: number, length: number): Float32Array =>
    Float32Array.from({ length }, (_, at) => ((from + at) % 30_000) / 32_768);
  const take = (blocks: readonly SoundBlock[]): number[] => {
    const pieces: Int16Array[] = [];
    const incoming = new Incoming((piece) => pieces.push(piece));
    for (const block of blocks) incoming.add(block);
    for (const piece of pieces) expect(piece).toHaveLength(4800);
    incoming.flush();
    incoming.flush();
    return pieces.flatMap((piece) => [...piece]);
  };

  test('is cut into tenths of a second, all of it, whatever lengths it comes in and however late it is told', () => {
    const came = fc.record({ length: fc.integer({ min: 1, max: 2000 }), lateMs: fc.nat(240) });
    fc.assert(
      fc.property(fc.array(came, { minLength: 1, maxLength: 30 }), (blocks) => {
        let at = 0;
        const samples = take(
          blocks.map(({ length, lateMs }) => {
            const block = { samples: ramp(at, length), rateHz: RATE_HZ, startMs: (at / RATE_HZ) * 1000 + lateMs };
            at += length;
            return block;
          })
        );
        expect(samples).toEqual(Array.from({ length: at }, (_, sample) => sample % 30_000));
      })
    );
  });

  test('is silent where some of it was lost on its way, so that what follows stands at its time', () => {
    const block = (startMs: number): SoundBlock => ({
      samples: new Float32Array(480).fill(0.5),
      rateHz: RATE_HZ,
      startMs
    });
    const samples = take([block(1000), block(1010), block(1520), block(1530)]);
    expect(samples).toHaveLength(540 * 48);
    expect(samples.map((sample) => sample !== 0)).toEqual(
      Array.from({ length: 540 * 48 }, (_, at) => at < 20 * 48 || at >= 520 * 48)
    );
    // A machine that slept was not spoken to.
    expect(take([block(1000), block(3_600_000)])).toHaveLength(20 * 48);
    expect(take([{ ...block(0), startMs: null }, block(5000)])).toHaveLength(20 * 48);
  });

  test('keeps the time of microphones of other rates, and what they lose too', () => {
    for (const rateHz of [16_000, 44_100, 96_000]) {
      const length = rateHz / 100;
      const click = (at: number): Float32Array =>
        Float32Array.from({ length }, (_, sample) => (at % 100 === 50 && sample === 0 ? 0.9 : 0));
      // The seventh second never came.
      const blocks = Array.from({ length: 1000 }, (_, at) => ({ samples: click(at), rateHz, startMs: at * 10 }));
      const samples = take(blocks.filter((_, at) => at < 600 || at >= 700));
      const clicks = samples.flatMap((sample, at) => (sample > 8000 ? [at / 48] : []));
      const expected = [0, 1, 2, 3, 4, 5, 7, 8, 9].map((second) => second * 1000 + 500);
      const near = expected.map((ms) => Math.min(...clicks.map((click) => Math.abs(click - ms))));
      expect(Math.max(...near), `${rateHz} Hz`).toBeLessThan(0.05);
      expect(clicks.every((click) => expected.some((ms) => Math.abs(click - ms) < 1))).toBe(true);
    }
  });

  test('is cut off at the ends of the scale, not turned over', () => {
    const samples = Float32Array.of(2, -2, 1, -1);
    expect(take([{ samples, rateHz: RATE_HZ, startMs: null }])).toEqual([32_767, -32_768, 32_767, -32_768]);
  });
});

describe('what comes in', () => {
  const tone = (size: number): Int16Array =>
    Int16Array.from({ length: 4800 }, (_, at) => Math.round(size * Math.sin((at * 2 * Math.PI) / 48)));

  test('is measured to full scale', () => {
    const { peakDb, rmsDb, isClipped } = measureInput(tone(16_384));
    expect(peakDb).toBeCloseTo(-6.02, 1);
    expect(rmsDb).toBeCloseTo(-9.03, 1);
    expect(isClipped).toBe(false);
    expect(measureInput(new Int16Array(480)).rmsDb).toBe(Number.NEGATIVE_INFINITY);
  });

  test('is clipped where it stays at the end of the scale, and not where it just reaches it', () => {
    const cut = Int16Array.from({ length: 4800 }, (_, at) => {
      const sample = Math.round(60_000 * Math.sin(at / 8));
      return Math.max(-32_768, Math.min(32_767, sample));
    });
    expect(measureInput(cut).isClipped).toBe(true);
    const once = tone(8000);
    once[100] = 32_767;
    expect(measureInput(once).isClipped).toBe(false);
  });

  test('that is silent for long is told, and a clipping stays told for a while', () => {
    const quiet = measureInput(new Int16Array(4800));
    const loud = measureInput(tone(9000));
    let watch = UNWATCHED;
    for (let at = 0; at < 20; at++) watch = watchInput(watch, quiet, 100);
    expect(hasTrouble(watch)).toBeNull();
    for (let at = 0; at < 6; at++) watch = watchInput(watch, quiet, 100);
    expect(hasTrouble(watch)).toBe('silent');
    watch = watchInput(watch, loud, 100);
    expect(hasTrouble(watch)).toBeNull();
    watch = watchInput(watch, { ...loud, isClipped: true }, 100);
    for (let at = 0; at < 20; at++) watch = watchInput(watch, loud, 100);
    expect(hasTrouble(watch)).toBe('clipped');
    for (let at = 0; at < 10; at++) watch = watchInput(watch, loud, 100);
    expect(hasTrouble(watch)).toBeNull();
  });

  test('counts as many milliseconds as it has samples', () => {
    expect(narratedBytes(1000)).toBe(96_000);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 50_000_000 }), (ms) => {
        expect(narratedMs(narratedBytes(ms))).toBeCloseTo(ms, 6);
      })
    );
  });
});

describe('sentences', () => {
  test('are parted at pauses', () => {
    const sentences = sentencesOf(spoken('the clock is late | it was oiled | today'), []);
    expect(sentences.map(({ words }) => said(words))).toEqual(['the clock is late', 'it was oiled', 'today']);
  });

  test('that are said anew are left out from their beginning, one further back where it is asked again', () => {
    const words = spoken('the clock is late | it was boiled oiled |');
    const nowMs = words.at(-1)!.endMs + 700;
    const once = againFrom(words, [], nowMs)!;
    expect(said(words.filter((word) => !isLeftOut(word, [once])))).toBe('the clock is late');
    expect(once.endMs).toBe(nowMs);
    const twice = againFrom(words, [once], nowMs + 100)!;
    expect(words.every((word) => isLeftOut(word, [once, twice]))).toBe(true);
    expect(againFrom(words, [once, twice], nowMs + 200)).toBeNull();
  });

  test('that go on without a pause behind one that was left out are sentences of their own', () => {
    const words = spoken('it was boiled it was oiled');
    const leftOut = [againFrom(words.slice(0, 3), [], words[3]!.startMs)!];
    expect(sentencesOf(words, leftOut).map((one) => [said(one.words), one.isLeftOut])).toEqual([
      ['it was boiled', true],
      ['it was oiled', false]
    ]);
    const again = againFrom(words, leftOut, words.at(-1)!.endMs + 10)!;
    expect(again.startMs).toBeGreaterThanOrEqual(words[2]!.endMs - 1);
  });

  test('hold every word once; what is left out is a whole sentence, and no word before it', () => {
    fc.assert(
      fc.property(anyWords, fc.integer({ min: 0, max: 40_000 }), (words, nowMs) => {
        expect(sentencesOf(words, []).flatMap((one) => one.words)).toEqual(words);
        const begun = words.filter(({ startMs }) => startMs < nowMs);
        const span = againFrom(words, [], nowMs);
        expect(span === null).toBe(begun.length === 0);
        if (span === null) return;
        const last = sentencesOf(begun, []).at(-1)!.words;
        expect(span.startMs).toBeLessThanOrEqual(last[0]!.startMs);
        expect(span.endMs).toBe(nowMs);
        for (const word of begun.slice(0, -last.length)) expect(word.endMs).toBeLessThanOrEqual(span.startMs + 1);
      })
    );
  });

  test('end for a recogniser when nothing was said for a pause', () => {
    const words = spoken('the clock');
    const { endMs } = words.at(-1)!;
    expect(utteranceEnd(words, endMs + LIVE_PAUSE_MS - 1)).toBeNull();
    expect(utteranceEnd(words, endMs + LIVE_PAUSE_MS)).toBe(endMs);
    expect(utteranceEnd([], wholeMs(10_000))).toBeNull();
  });
});

describe('the place in a script', () => {
  const script = scriptWords(
    'Good evening. The tower clock of Merrowby is two hundred years old,\n\nand it is still wound by hand. Twice a week somebody climbs the stairs, and turns the crank; the clock of the school is younger.'
  );
  const behind = (text: string): number => script.findIndex((one) => one.text === text) + 1;

  test('is the word behind those that were heard last', () => {
    expect(placeInScript(script, ['good', 'evening', 'the', 'tower', 'clock'], 0)).toBe(behind('clock'));
    expect(placeInScript(script, [], 4)).toBe(4);
    expect(script.filter(({ paragraph }) => paragraph === 1)[0]!.text).toBe('and');
  });

  test('bears misheard, left out and added words; what is not in the script moves nothing', () => {
    const at = placeInScript(script, 'and it is um still wound buy hand'.split(' '), behind('old,'));
    expect(at).toBe(behind('hand.'));
    expect(placeInScript(script, 'somewhere else entirely people drink coffee'.split(' '), at)).toBe(at);
  });

  test('goes back where a sentence is said anew, and does not jump to where the same words stand later', () => {
    expect(placeInScript(script, ['the', 'clock', 'of'], 2)).toBeLessThan(behind('Merrowby'));
    const back = placeInScript(script, 'and it is still'.split(' '), behind('hand.'));
    expect(back).toBe(behind('still'));
  });

  test('is followed through a script that is read with one word in six misheard', () => {
    let at = 0;
    const heard: string[] = [];
    script.forEach(({ bare }, place) => {
      heard.push(place % 6 === 3 ? 'mumble' : bare);
      at = placeInScript(script, heard, at);
      expect(Math.abs(at - (place + 1))).toBeLessThanOrEqual(3);
    });
    expect(at).toBe(script.length);
  });
});
