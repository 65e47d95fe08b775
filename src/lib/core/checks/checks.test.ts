import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { resolveCommands } from '../commands';
import { doubtKey } from '../doubts';
import { asCueId } from '../id';
import { anyTrack } from '../testing/any-track';
import { toSpan } from '../time';
import {
  HOUSE_RULES,
  makeCue,
  makeSpeaker,
  makeTrack,
  makeWord,
  tokenize,
  type Cue,
  type Sheet,
  type Track,
  type Word
} from '../track';
import {
  Checker,
  CHECKS,
  checkTrack,
  findCheck,
  GROUPS,
  isMendedUnseen,
  knowOnly,
  mend,
  numbersOf,
  strictSheetSchema,
  SHIPPED_SHEETS,
  type Knowledge
} from '.';

interface Line {
  readonly text: string;
  /** The cue's times; three seconds each, half a second apart, where it is not said. */
  readonly at?: readonly [number, number];
  readonly cue?: Partial<Omit<Cue, 'id' | 'wordIds'>>;
  readonly word?: Partial<Word>;
  /** When its words are heard, if they are. */
  readonly heard?: readonly [number, number];
}

/** A track of cues written as lines; `|` breaks a line. */
function trackOf(lines: readonly (string | Line)[], fields: Partial<Track> = {}): Track {
  const words: Word[] = [];
  const cues = lines.map((line, at) => {
    const { text, at: times, cue, word, heard } = typeof line === 'string' ? ({ text: line } as Line) : line;
    const [startMs, endMs] = times ?? [1000 + at * 3500, 4000 + at * 3500];
    const rows = text === '' ? [] : text.split('|').map((row) => tokenize(row.trim(), 'en'));
    const tokens = rows.flat();
    const [fromMs, toMs] = heard ?? [startMs, endMs];
    const own = tokens.map((token, index) =>
      makeWord({
        ...{
          id: `w${at}-${index}`,
          text: token.text,
          spaceBefore: token.spaceBefore,
          timing: heard ? 'heard' : 'estimated'
        },
        startMs: Math.round(fromMs + ((toMs - fromMs) * index) / tokens.length),
        endMs: Math.round(fromMs + ((toMs - fromMs) * (index + 1)) / tokens.length),
        ...word
      })
    );
    words.push(...own);
    let count = 0;
    const starts = rows.slice(0, -1).map((row) => own[(count += row.length)]!.id);
    return makeCue({
      ...{ id: `c${at}`, startMs, endMs, wordIds: own.map(({ id }) => id), lineStarts: starts },
      ...cue
    });
  });
  return makeTrack({ ...{ id: 't', recordingId: 'r', language: 'en', title: 'Made' }, words, cues, ...fields });
}

const ALL_ON: Sheet = Object.fromEntries(
  CHECKS.filter(({ severity }) => severity === 'off').map(({ id }) => [id, { severity: 'hint' as const }])
);
const LONG = 600_000;
const know = (more: Partial<Knowledge> = {}): Knowledge => ({ ...knowOnly(LONG), ...more });
const span = (startMs: number, endMs: number) => toSpan({ startMs, endMs });
const rulesOf = (track: Track, knowledge = know(), sheet = ALL_ON): string[] =>
  checkTrack(track, knowledge, sheet).findings.map(({ rule }) => rule);

/** Nothing is to be found in these. */
const CLEAN: readonly string[] = [
  'The tower keeps the hours of the town.',
  'A smith and his daughter made its clock.',
  'They climb up to oil it every spring.'
];
const clean = trackOf(CLEAN);

/** For each check a track, or a cue put behind the clean ones, in which it finds one thing. */
const onPicture = (facts: (at: number) => object) =>
  new Map(clean.cues.map(({ id }, at) => [id, { worst: 9, isLarge: false, isOverLettering: false, ...facts(at) }]));
const PLANTED: Readonly<Record<string, Track | { readonly track: Track; readonly knowledge: Partial<Knowledge> }>> = {
  doubled_word: trackOf([...CLEAN, 'They wind the the clock by hand.']),
  sentence_end: trackOf([...CLEAN, 'They wind the clock by hand']),
  capital: trackOf([...CLEAN, 'They wind it. then they go home.']),
  small_number: trackOf([...CLEAN, 'They wind 3 weights up the tower.']),
  stuck_unit: trackOf([...CLEAN, 'The rope is 30m long or so.']),
  speaker_named: trackOf([{ text: CLEAN[0]!, word: { speakerId: 'a' } }, ...CLEAN.slice(1)], {
    speakers: [makeSpeaker('a', 'Orla'), makeSpeaker('b', 'Tobin')]
  }),
  speaker_change: (() => {
    const track = trackOf([...CLEAN, 'Who is there? Only me again.'], {
      rules: { ...HOUSE_RULES, sharedCues: 'plain' },
      speakers: [makeSpeaker('a', 'Tower talk'), makeSpeaker('b', 'Who is there')]
    });
    const words = track.words.map((word) =>
      word.id.startsWith('w3') ? { ...word, speakerId: Number(word.id.slice(3)) < 3 ? 'b' : 'a' } : word
    );
    return { track: { ...track, words }, knowledge: {} };
  })(),
  open_bracket: trackOf([...CLEAN, 'The wheel (the large one turns slowly.']),
  open_quote: trackOf([...CLEAN, 'She said “come up and looked away.']),
  markup_left: trackOf([...CLEAN, 'They wind <font>it</font> by hand.']),
  mixed_dashes: trackOf([
    ...CLEAN,
    'Wheels – small ones – turn fast.',
    'Weights — large ones — fall.',
    'Ropes – thin – run up.'
  ]),
  mixed_ellipses: trackOf([...CLEAN, 'They wait… and wait…', 'They wait... and go.', 'They wait…']),
  mixed_quotes: trackOf([
    ...CLEAN,
    'It’s the smith’s own.',
    "It's the daughter's clock.",
    'That’s the town’s tower.',
    'It’s his.'
  ]),
  unseen: trackOf([...CLEAN, 'They wind\u200b it by hand.']),
  broken_sign: trackOf([...CLEAN, 'They met in a cafÃ© nearby.']),
  space_in_sound: trackOf([...CLEAN, '[bell  strikes twice]']),
  space_before_mark: trackOf([...CLEAN, 'They wind it , by hand.']),
  typed_dash: trackOf([...CLEAN, '-They wind it by hand.']),
  reading_speed: trackOf([...CLEAN, { text: 'It runs for eight days without any help.', at: [20_000, 21_500] }]),
  reading_words: trackOf([...CLEAN, { text: 'It runs for eight days without any help.', at: [20_000, 22_100] }]),
  line_length: trackOf([
    ...CLEAN,
    { text: 'It runs for eight long days and for as many nights, unattended.', at: [20_000, 25_000] }
  ]),
  line_count: trackOf([
    ...CLEAN,
    { text: 'It runs for eight days|without any help,|and then it stops.', at: [20_000, 25_000] }
  ]),
  line_balance: trackOf([...CLEAN, { text: 'It runs,|for eight long days and nights on end.', at: [20_000, 25_000] }]),
  line_parted: trackOf([
    ...CLEAN,
    { text: 'It runs for eight days and the|wheels of the tower never stop once.', at: [20_000, 25_000] }
  ]),
  cue_parted: trackOf([
    ...CLEAN,
    { text: 'It runs for eight days without the', at: [20_000, 23_000] },
    { text: 'help of anybody in the town.', at: [23_600, 26_500] }
  ]),
  sentence_begun: trackOf([
    ...CLEAN,
    { text: 'It runs for eight days unattended. It', at: [20_000, 23_000] },
    { text: 'stops when its weights are down.', at: [24_000, 27_000] }
  ]),
  fits_one_line: trackOf([...CLEAN, 'It runs,|for eight days.']),
  min_duration: trackOf([...CLEAN, { text: 'It stops.', at: [20_000, 20_800] }]),
  max_duration: trackOf([...CLEAN, { text: 'It runs for eight days unattended.', at: [20_000, 28_000] }]),
  min_gap: trackOf([
    ...CLEAN,
    { text: 'It runs on.', at: [20_000, 22_000] },
    { text: 'Nobody helps.', at: [22_040, 24_000] }
  ]),
  flicker: trackOf([
    ...CLEAN,
    { text: 'It runs on.', at: [20_000, 22_000] },
    { text: 'Nobody helps.', at: [22_300, 24_500] }
  ]),
  overlap: trackOf([
    ...CLEAN,
    { text: 'It runs on.', at: [20_000, 22_500] },
    { text: 'Nobody helps.', at: [22_040, 24_500] }
  ]),
  late_start: trackOf([...CLEAN, { text: 'It runs for eight days.', at: [20_000, 23_000], heard: [19_600, 22_500] }]),
  early_start: trackOf([...CLEAN, { text: 'It runs for eight days.', at: [20_000, 23_000], heard: [20_500, 22_500] }]),
  off_words: trackOf([...CLEAN, { text: 'It runs for eight days.', at: [20_000, 23_000], heard: [20_000, 23_400] }]),
  lingers: trackOf([...CLEAN, { text: 'It runs for eight days.', at: [20_000, 25_000], heard: [20_000, 22_000] }]),
  empty_cue: trackOf([...CLEAN, '']),
  said_twice: trackOf([...CLEAN, CLEAN[2]!]),
  outside: trackOf([...CLEAN, { text: 'It runs on.', cue: { placement: { xPercent: 50, yPercent: 2 } } }]),
  sound_unbracketed: trackOf([...CLEAN, 'Applause.']),
  music_sign: trackOf([...CLEAN, '♪ The bells are ringing in the tower.']),
  language: trackOf(CLEAN, { language: 'und' }),
  title: trackOf(CLEAN, { title: '' }),
  no_cues: trackOf([]),
  words_uncued: (() => {
    const track = trackOf([...CLEAN, 'It runs on.']);
    return { track: { ...track, cues: track.cues.slice(0, 3) }, knowledge: {} };
  })(),
  past_end: trackOf([...CLEAN, { text: 'It runs for eight days.', at: [LONG - 2000, LONG + 500] }]),
  last_cue: trackOf([...CLEAN, { text: 'It runs for eight days.', at: [LONG - 2000, LONG - 10] }]),
  near_shot: { track: clean, knowledge: { shotsMs: [1000, 11_300] } },
  contrast: {
    track: clean,
    knowledge: { contrast: onPicture((at) => ({ worst: at === 1 ? 2 : 9 })) }
  },
  over_lettering: { track: clean, knowledge: { contrast: onPicture((at) => ({ isOverLettering: at === 1 })) } },
  speech_uncaptioned: { track: clean, knowledge: { speech: [span(1000, 11_000), span(14_000, 16_000)] } },
  caption_unheard: { track: clean, knowledge: { speech: [span(1000, 4500), span(7900, 11_000)] } },
  sound_uncaptioned: { track: clean, knowledge: { sounds: [span(20_000, 21_000)] } },
  sound_outlasts: {
    track: trackOf([...CLEAN, { text: '[bell strikes]', at: [20_000, 25_000] }]),
    knowledge: { sounds: [span(20_000, 22_000)] }
  },
  ...Object.fromEntries(
    (
      [
        ['spelling', 'spelling'],
        ['near_name', 'near_miss'],
        ['unsure', 'unsure']
      ] as const
    ).map(([rule, reason]) => {
      const word = clean.words[1]!;
      const doubt = {
        ...{ key: doubtKey(reason, [word]), reason, wordIds: [word.id], startMs: word.startMs, endMs: word.endMs },
        candidates: [{ text: 'belfry', source: 'dictionary' as const }]
      };
      return [rule, { track: clean, knowledge: { doubts: new Map([[word.id, doubt]]), isSpelled: true } }];
    })
  ),
  ...Object.fromEntries(
    (
      [
        ['untranslated', 'Its clock was made by a smith.', 'Its clock was made by a smith.'],
        ['source_numbers', 'It was made in 1704.', 'Sie wurde 1740 gemacht.'],
        ['source_names', 'Tobin made the clock.', 'Der Schmied hat sie gemacht.'],
        ['source_terms', 'The escapement is worn.', 'Die Räder sind müde.'],
        ['source_room', 'It runs.', 'Sie geht nun acht Tage.']
      ] as const
    ).map(([rule, from, to]) => {
      const source = trackOf([from], { names: ['Tobin'] });
      const track = trackOf([{ text: to, cue: { sourceCueIds: [asCueId('c0')] } }], {
        ...{ language: 'de', sourceTrackId: source.id }
      });
      const terms = [{ source: 'escapement', target: 'Hemmung', note: '' }];
      return [rule, { track, knowledge: { source, terms } }];
    })
  ),
  source_changed: (() => {
    const source = trackOf(['It runs.']);
    const translation = { state: 'done' as const, sourceText: 'It ran.' };
    const track = trackOf([{ text: 'Sie geht.', cue: { sourceCueIds: [asCueId('c0')], translation } }], {
      ...{ language: 'de', sourceTrackId: source.id }
    });
    return { track, knowledge: { source } };
  })(),
  charset: trackOf([...CLEAN, 'They met in Łódź, far away.'])
};
/** What a planted fault is, beside what it was planted for. */
const BESIDE: Readonly<Record<string, readonly string[]>> = {
  speaker_change: ['speaker_named'],
  reading_speed: ['reading_words']
};
/** Found on two words each. */
const TWICE = new Set(['mixed_dashes', 'mixed_quotes']);
const SHEETS: Readonly<Record<string, Sheet>> = { charset: { charset: { numbers: { set: 1 } } } };

describe('the table', () => {
  test('has names, groups and numbers that hold together', () => {
    expect(new Set(CHECKS.map(({ id }) => id)).size).toBe(CHECKS.length);
    expect(CHECKS.length).toBeGreaterThanOrEqual(50);
    for (const group of GROUPS) expect(CHECKS.some((check) => check.group === group)).toBe(true);
    for (const check of CHECKS)
      for (const { least, most } of Object.values(check.numbers ?? {})) expect(least).toBeLessThan(most);
  });

  test('finds nothing in a track that is as it should be, and says what it could not check', () => {
    const { findings, notChecked } = checkTrack(clean, know(), ALL_ON);
    expect(findings).toEqual([]);
    expect(new Set(notChecked.map(({ needs }) => needs))).toEqual(
      new Set(['doubts', 'dictionary', 'shots', 'speech', 'sounds', 'contrast'])
    );
  });

  test.each(CHECKS.map(({ id }) => id))('%s finds what is planted, once, and little else', (id) => {
    const planted = PLANTED[id]!;
    const { track, knowledge } = 'cues' in planted ? { track: planted, knowledge: {} } : planted;
    const found = rulesOf(track, know(knowledge), { ...ALL_ON, ...SHEETS[id] });
    // What reads too fast for a limit of characters does so for one of words; and the like.
    expect([...new Set(found)].filter((rule) => rule !== id)).toEqual(BESIDE[id] ?? []);
    expect(found.filter((rule) => rule === id)).toHaveLength(TWICE.has(id) ? 2 : 1);
  });
});

const setting = (knowledge: Knowledge, sheet: Sheet) => {
  let minted = 0;
  return { knowledge, sheet, mint: () => `n${minted++}`, atMs: 5 };
};

describe('mending', () => {
  const mendable = CHECKS.filter((check) => 'mend' in check).map(({ id }) => id);

  test.each(mendable)('of %s takes it away', (id) => {
    const planted = PLANTED[id]!;
    const { track, knowledge } = 'cues' in planted ? { track: planted, knowledge: {} } : planted;
    const known = know(knowledge);
    const sheet = { ...ALL_ON, ...SHEETS[id] };
    const { findings } = checkTrack(track, known, sheet);
    const own = findings.filter(({ rule }) => rule === id);
    const done = mend(track, own, setting(known, sheet));
    expect(done.keys).toEqual(own.map(({ key }) => key));
    expect(rulesOf(done.track, known, sheet)).not.toContain(id);
    const replayed = resolveCommands(track, done.commands);
    expect(replayed.ok && replayed.value.track).toEqual(done.track);
  });

  test('never makes anything worse, and twice is once, whatever the track is', () => {
    fc.assert(
      fc.property(anyTrack, fc.boolean(), (track, all) => {
        const known = know({
          shotsMs: [2000, 3000, 5000, 9000],
          sounds: [span(3000, 5000)],
          speech: [span(2000, 8000)]
        });
        const sheet = all ? ALL_ON : {};
        const before = checkTrack(track, known, sheet).findings;
        const wanted = before.filter(({ rule, cueId }) => cueId !== null && isMendedUnseen(rule));
        const done = mend(track, wanted, setting(known, sheet));
        // What is mended in pieces is what its commands do.
        const replayed = resolveCommands(track, done.commands);
        expect(replayed.ok && replayed.value.track).toEqual(done.track);
        const after = checkTrack(done.track, known, sheet).findings;
        const count = (list: typeof before): number => list.filter(({ cueId }) => cueId !== null).length;
        expect(count(after)).toBeLessThanOrEqual(count(before) - (done.keys.length > 0 ? 1 : 0));
        const again = mend(
          done.track,
          after.filter(({ rule }) => isMendedUnseen(rule)),
          setting(known, sheet)
        );
        expect(mend(again.track, [], setting(known, sheet)).commands).toEqual([]);
        expect(count(checkTrack(again.track, known, sheet).findings)).toBeLessThanOrEqual(count(after));
        // Locked cues keep their times.
        for (const cue of track.cues.filter(({ locked }) => locked)) {
          const now = done.track.cues.find(({ id }) => id === cue.id);
          if (now !== undefined && now.wordIds.length === cue.wordIds.length)
            expect([now.startMs, now.endMs]).toEqual([cue.startMs, cue.endMs]);
        }
      }),
      { numRuns: 150 }
    );
  });

  test('is none where a cue is gone, or what was found is no longer so', () => {
    const track = PLANTED['doubled_word'] as Track;
    const [finding] = checkTrack(track, know()).findings;
    const gone = { ...track, cues: track.cues.slice(0, 2) };
    expect(mend(gone, [finding!], setting(know(), {})).commands).toEqual([]);
    const once = mend(track, [finding!], setting(know(), {}));
    expect(mend(once.track, [finding!], setting(know(), {})).commands).toEqual([]);
  });
});

describe('keys', () => {
  test('stay while the text stays, and change with it', () => {
    const track = PLANTED['min_duration'] as Track;
    const keyOf = (one: Track): string | undefined =>
      checkTrack(one, know()).findings.find(({ rule }) => rule === 'min_duration')?.key;
    const key = keyOf(track);
    expect(key).toMatch(/^min_duration c3 /);
    const at = track.cues[3]!;
    const moved = { ...track, cues: track.cues.with(3, { ...at, ...span(20_300, 21_000) }) };
    expect(keyOf(moved)).toBe(key);
    const written = {
      ...track,
      words: track.words.map((word) => (word.text === 'stops.' ? { ...word, text: 'halts.' } : word))
    };
    expect(keyOf(written)).not.toBe(key);
  });
});

test('looking again after an edit finds what looking at all finds', () => {
  fc.assert(
    fc.property(anyTrack, anyTrack, fc.nat(), (track, other, seed) => {
      const known = know({ speech: [span(2000, 8000)], shotsMs: [3000] });
      const checker = new Checker();
      let now = track;
      for (const step of [0, 1, 2]) {
        expect(checker.check(now, known, ALL_ON)).toEqual(checkTrack(now, known, ALL_ON));
        const at = (seed + step) % Math.max(1, now.cues.length);
        const cue = now.cues[at];
        if (cue === undefined) break;
        const words = now.words.map((word) => (word.id === cue.wordIds[0] ? { ...word, text: `${word.text}x` } : word));
        now = step === 1 ? { ...now, cues: now.cues.toSpliced(at, 1) } : { ...now, words };
        if (step === 2) now = { ...now, rules: other.rules, language: 'de' };
      }
    })
  );
});

describe('a sheet', () => {
  test('sets how a check counts and its numbers; where it does not, the track’s rules do', () => {
    const track = PLANTED['min_duration'] as Track;
    const speed = findCheck('reading_speed')!;
    expect(numbersOf(speed, {}, track)).toEqual({ most: 20 });
    expect(numbersOf(speed, { reading_speed: { numbers: { most: 12 } } }, track)).toEqual({ most: 12 });
    const found = (sheet: Sheet) =>
      checkTrack(track, know(), sheet).findings.map(({ rule, severity }) => `${rule} ${severity}`);
    expect(found({})).toEqual(['min_duration warning']);
    expect(found({ min_duration: { severity: 'error' } })).toEqual(['min_duration error']);
    expect(found({ min_duration: { severity: 'off' } })).toEqual([]);
    expect(found({ min_duration: { numbers: { least: 500 } } })).toEqual([]);
  });

  test('is refused with unknown checks, unknown fields and absurd numbers, each by its name', () => {
    const refused = (sheet: unknown) =>
      strictSheetSchema.safeParse(sheet).error?.issues.map(({ path }) => path.join('.'));
    expect(refused({ min_duration: { numbers: { least: 900 } } })).toBeUndefined();
    expect(refused({ no_such_check: {} })).toEqual(['no_such_check']);
    expect(refused({ min_duration: { numbers: { least: -4 } } })).toEqual(['min_duration.numbers.least']);
    expect(refused({ min_duration: { numbers: { least: Number.NaN } } })).toEqual(['min_duration.numbers.least']);
    expect(refused({ min_duration: { numbers: { most: 4 } } })).toEqual(['min_duration.numbers.most']);
    expect(refused({ min_duration: { severity: 'fatal' } })).toEqual(['min_duration.severity']);
    expect(refused({ min_duration: { color: 'red' } })).toEqual(['min_duration']);
    for (const { sheet } of SHIPPED_SHEETS) expect(refused(sheet)).toBeUndefined();
  });
});
