import { describe, expect, test } from 'vitest';
import { LevelMeter, type SpeechMap } from '../audio';
import { asWordId } from '../id';
import { USUAL_OPTIONS } from '../formats';
import { wholeTrim } from '../testing/any-trim';
import { wholeMs } from '../time';
import { makeTrack, makeWord, type Track } from '../track';
import {
  cutListRemarks,
  findHesitations,
  formatCutList,
  isSteadyVoice,
  judgeJoins,
  resolveTrimCommands,
  spansOfWords,
  untoldSpeech,
  type CutListOptions,
  type Trim,
  type TrimCommand
} from '.';

/** Words of 200 ms with 100 ms between them; `|` makes a pause of two seconds. */
function said(text: string, language = 'en'): Track {
  let nowMs = 0;
  const words = text.split(' ').flatMap((one, at) => {
    if (one === '|') {
      nowMs += 2000;
      return [];
    }
    const word = makeWord({ id: `w${at}`, text: one, startMs: nowMs, endMs: nowMs + 200, timing: 'heard' });
    nowMs += 300;
    return [word];
  });
  return makeTrack({ id: 't', recordingId: 'r', language, title: 'A talk', words, cues: [] });
}
const found = (text: string, phrases?: readonly string[], language?: string): string[] =>
  findHesitations(said(text, language), phrases).map((one) => `${one.kind}: ${one.text}`);

describe('hesitations', () => {
  test.each([
    ['So, um, the pallets, er, drop', ['sound: um,', 'sound: er,']],
    ['and the the going train', ['repeat: the']],
    ['I mean, I mean the escapement', ['repeat: I mean,', 'phrase: I mean']],
    ['we we clean the clean the pivots', ['repeat: we', 'repeat: clean the']],
    ['it was th- the pendulum', ['false start: th-']],
    ['you know the bob is sort of heavy', ['phrase: you know', 'phrase: sort of']],
    ['wind it, um, wind it daily', ['repeat: wind it,', 'sound: um,']]
  ])('of “%s” are found', (text, wanted) => expect(found(text)).toEqual(wanted));

  test.each([
    ['It was very very old.'],
    ['He had had it mended.'],
    ['2 2 7.'],
    ['It runs. It runs.'],
    ['the bell | the bell again'],
    ['tick tick goes the clock'],
    ['The umbrella hummed.']
  ])('are none in “%s”', (text) => expect(found(text, [])).toEqual([]));

  test('in other languages are those of the own list', () => {
    expect(found('also um die Uhr', ['also'], 'de')).toEqual(['phrase: also']);
  });

  test('are not said by two people', () => {
    const track = said('the the clock');
    const words = track.words.map((word, at) => ({ ...word, speakerId: at === 0 ? 'a' : 'b' }));
    expect(findHesitations({ ...track, words })).toEqual([]);
  });

  test('that no word was heard for lie in speech between words', () => {
    const track = said('so | the clock');
    const speech = [
      { startMs: wholeMs(0), endMs: wholeMs(200) },
      { startMs: wholeMs(900), endMs: wholeMs(1400) },
      { startMs: wholeMs(2200), endMs: wholeMs(3000) }
    ];
    expect(untoldSpeech(track, speech)).toEqual([{ startMs: 900, endMs: 1400 }]);
  });

  test('have the shape of one long vowel', () => {
    const vowel = (hz: (ms: number) => number, lengthMs = 400): Int16Array => {
      let phase = 0;
      return Int16Array.from({ length: lengthMs * 16 }, (_, at) => {
        phase += (2 * Math.PI * hz(at / 16)) / 16_000;
        return 4000 * (Math.sin(phase) + 0.6 * Math.sin(2 * phase) + 0.4 * Math.sin(3 * phase));
      });
    };
    expect(isSteadyVoice(vowel(() => 120))).toBe(true);
    expect(isSteadyVoice(vowel((ms) => 120 + ms * 0.05))).toBe(true);
    let state = 5;
    const hiss = Int16Array.from({ length: 6400 }, () => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return (state / 2147483648 - 1) * 4000;
    });
    expect(isSteadyVoice(hiss)).toBe(false);
    expect(isSteadyVoice(vowel((ms) => (Math.floor(ms / 50) % 2 === 0 ? 110 : 180)))).toBe(false);
    expect(isSteadyVoice(new Int16Array(6400))).toBe(false);
    expect(isSteadyVoice(vowel(() => 120, 40))).toBe(false);
  });
});

/** Levels of 16 kHz noise by their parts: length in ms, and level. */
function levelsOf(parts: readonly (readonly [number, number])[]): {
  levels: Uint8Array;
  speech: SpeechMap;
  crossings: null;
} {
  const meter = new LevelMeter(16_000);
  let state = 9;
  const probabilities: number[] = [];
  let endMs = 0;
  for (const [lengthMs, level] of parts) {
    meter.push(
      Int16Array.from({ length: lengthMs * 16 }, () => {
        state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
        return (state / 2147483648 - 1) * level * 32_767;
      })
    );
    endMs += lengthMs;
    while ((probabilities.length + 1) * 32 <= endMs) probabilities.push(level > 0.1 ? 1 : 0);
  }
  return { levels: meter.finish(), speech: { frameMs: 32, probabilities }, crossings: null };
}

describe('stretches of words', () => {
  const track = said('wind the clock | every day');
  const spans = (ids: readonly string[], sound: Parameters<typeof spansOfWords>[2] = null) =>
    spansOfWords(track, ids.map(asWordId), sound, 10_000).map(({ fromMs, toMs }) => [fromMs, toMs]);

  test('are one for neighbours, and several for others', () => {
    expect(spans(['w0', 'w1'])).toEqual([[0, 500]]);
    expect(spans(['w4', 'w0'])).toEqual([
      [0, 200],
      [2900, 3100]
    ]);
    expect(spans(['nobody'])).toEqual([]);
  });

  test('never reach into a neighbour, and lie where it is quiet', () => {
    const { levels, crossings } = levelsOf([
      [200, 0.3],
      [100, 0.004],
      [200, 0.3],
      [60, 0.1],
      [40, 0.004],
      [200, 0.3],
      [3000, 0.004]
    ]);
    const [fromMs = 0, toMs = 0] = spans(['w1'], { levels, crossings })[0] ?? [];
    expect(fromMs).toBeGreaterThanOrEqual(200);
    expect(fromMs).toBeLessThanOrEqual(310);
    expect(toMs).toBeGreaterThanOrEqual(555);
    expect(toMs).toBeLessThanOrEqual(600);
  });
});

const trimmed = (recordedMs: number, ...commands: readonly TrimCommand[]): Trim => {
  const made = resolveTrimCommands(wholeTrim(recordedMs), commands);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
const out = (fromMs: number, toMs: number): TrimCommand => ({
  type: 'takeOut',
  spans: [{ fromMs: wholeMs(fromMs), toMs: wholeMs(toMs) }],
  newId: `n${fromMs}`
});

describe('joins', () => {
  const talk = levelsOf([
    [1000, 0.3],
    [600, 0.003],
    [1000, 0.3],
    [600, 0.003],
    [1000, 0.3],
    [300, 0.003],
    [200, 0.03],
    [300, 0.003],
    [1000, 0.3]
  ]);

  test('in the quiet are not heard', () => {
    expect(judgeJoins(trimmed(6000, out(1300, 2900)), talk)).toMatchObject([{ atMs: 1300, faults: [], better: [] }]);
  });

  test('through a sound are, and a better edge is proposed that is quiet', () => {
    const [join] = judgeJoins(trimmed(6000, out(900, 2900)), talk);
    expect(join!.faults[0]).toBe('in a sound');
    expect(join!.better).toMatchObject([{ edge: 'end' }]);
    expect(join!.better[0]!.atMs).toBeGreaterThan(1000);
    const mended = resolveTrimCommands(trimmed(6000, out(900, 2900)), [
      { type: 'moveEdge', ...join!.better[0]!, newId: 'b' }
    ]);
    expect(mended.ok && judgeJoins(mended.value, talk)[0]!.faults).toEqual([]);
  });

  test('through a breath are, and between rooms and voices that differ', () => {
    expect(judgeJoins(trimmed(6000, out(2900, 4600)), talk)[0]!.faults).toEqual(['breath']);
    const rooms = levelsOf([
      [1000, 0.3],
      [800, 0.002],
      [800, 0.03],
      [1000, 0.3]
    ]);
    expect(judgeJoins(trimmed(3600, out(1500, 2200)), rooms)[0]!.faults).toContain('background');
    const pitchOf = (fromMs: number): number => (fromMs < 2000 ? 4.6 : 5.4);
    expect(judgeJoins(trimmed(6000, out(1300, 2900)), { ...talk, pitchOf })[0]!.faults).toEqual(['pitch']);
  });
});

describe('cut lists', () => {
  const trim = trimmed(
    20_000,
    { type: 'takeOut', spans: [{ fromMs: wholeMs(2000), toMs: wholeMs(6000) }], newId: 'a' },
    { type: 'silence', spans: [{ fromMs: wholeMs(8000), toMs: wholeMs(9000) }], newId: 'b' },
    { type: 'setGain', spans: [{ fromMs: wholeMs(12_000), toMs: wholeMs(14_000) }], gainDb: -6, newId: 'c' },
    { type: 'putInPause', atMs: wholeMs(2000), lengthMs: wholeMs(1000), newId: 'd' }
  );
  const options: CutListOptions = {
    ...USUAL_OPTIONS,
    ...{ frameRate: '25', title: 'The tower clock', hasPicture: true, channels: 2, track: said('wind the clock') }
  };

  test('as EDL have an event a piece, with reel, channels and time codes', () => {
    const lines = formatCutList(trim, 'edl', options)
      .split('\r\n')
      .filter((line) => /^\d{3} /.test(line));
    expect(lines).toEqual([
      '001  THETOWER AA/V  C        00:00:00:00 00:00:02:00 00:00:00:00 00:00:02:00',
      '002  BL       AA/V  C        00:00:00:00 00:00:01:00 00:00:02:00 00:00:03:00',
      '003  THETOWER AA/V  C        00:00:06:00 00:00:08:00 00:00:03:00 00:00:05:00',
      '004  THETOWER V     C        00:00:08:00 00:00:09:00 00:00:05:00 00:00:06:00',
      '005  THETOWER AA/V  C        00:00:09:00 00:00:12:00 00:00:06:00 00:00:09:00',
      '006  THETOWER AA/V  C        00:00:12:00 00:00:14:00 00:00:09:00 00:00:11:00',
      '007  THETOWER AA/V  C        00:00:14:00 00:00:20:00 00:00:11:00 00:00:17:00'
    ]);
    const sound = formatCutList(trim, 'edl', { ...options, hasPicture: false, channels: 1 });
    expect(sound).toContain('001  THETOWER A     C ');
    expect(sound).toContain('BL       A     C        00:00:00:00 00:00:01:00 00:00:05:00 00:00:06:00');
  });

  test('count as drop-frame does, and never drift', () => {
    const long = trimmed(7_200_000, ...Array.from({ length: 300 }, (_, at) => out(at * 20_011, at * 20_011 + 713)));
    const edl = formatCutList(long, 'edl', { ...options, frameRate: '29.97', dropFrame: true });
    expect(edl).toContain('FCM: DROP FRAME');
    const last = edl
      .split('\r\n')
      .filter((line) => /^\d{3} /.test(line))
      .at(-1)!;
    expect(last.slice(-11)).toBe('01:56:26;04');
  });

  test('as OpenTimelineIO have gaps where nothing is, on picture and sound that are as long', () => {
    const otio = JSON.parse(formatCutList(trim, 'otio', options)) as {
      tracks: {
        children: {
          kind: string;
          children: { OTIO_SCHEMA: string; source_range: { duration: { value: number } } }[];
        }[];
      };
    };
    const [picture, sound] = otio.tracks.children;
    expect([picture!.kind, sound!.kind]).toEqual(['Video', 'Audio']);
    const lengths = (one: typeof picture): number =>
      one!.children.reduce((sum, item) => sum + item.source_range.duration.value, 0);
    expect([lengths(picture), lengths(sound)]).toEqual([425, 425]);
    expect(picture!.children.map((item) => item.OTIO_SCHEMA[0]).join('')).toBe('CGCCCCC');
    expect(sound!.children.map((item) => item.OTIO_SCHEMA[0]).join('')).toBe('CGCGCCC');
  });

  test('as a table have what is kept with its text', () => {
    const rows = formatCutList(trim, 'csv', options).split('\r\n');
    expect(rows[1]).toBe('1,kept,0:00.000,0:02.000,0:00.000,0:02.000,2000,0,wind the clock');
    expect(rows[2]).toBe('2,pause,,,0:02.000,0:03.000,1000,0,');
    expect(rows[4]).toBe('4,silenced,0:08.000,0:09.000,0:05.000,0:06.000,1000,0,');
  });

  test('tell what they cannot say', () => {
    expect(cutListRemarks(trim, 'edl', options).map(({ code }) => code)).toEqual([
      ...['pauses_empty', 'gain_as_comment', 'silence_as_picture', 'fades_left_out', 'times_rounded']
    ]);
    expect(cutListRemarks(trim, 'csv', options)).toEqual([]);
  });
});
