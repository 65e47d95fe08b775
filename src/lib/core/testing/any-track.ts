/** Generated tracks and edits for the laws that hold for all of them. */
import { asCueId, asTrackId, asWordId, type CueId } from '../id';
import fc from 'fast-check';
import { completeCommand, textTokens, type ClientCommand, type Command, type CommandOf } from '../commands';
import { type Span, toSpan, wholeMs } from '../time';
import {
  compareCues,
  lookUp,
  makeCue,
  makeTrack,
  makeWord,
  pointSchema,
  type Cue,
  type Mark,
  type MarkKind,
  type Track,
  type Word,
  makeSpeaker
} from '../track';

const anyText = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.constantFrom('the', 'clock', 'Merrowby', 'swings,', 'past.', 'and', 'I', 'pivots', '42', 'a')
  },
  { weight: 1, arbitrary: fc.constantFrom('שלום', 'مرحبا', 'e\u0301te\u0301', '🕰️', 'R&D', '<tick>', 'x\u00a0y') }
);

interface WordSeed {
  readonly text: string;
  readonly lengthMs: number;
  readonly pauseMs: number;
  readonly timing: Word['timing'];
  readonly shown: boolean;
  readonly speaker: number;
  readonly startsParagraph: boolean;
  /** Part of its text that is set otherwise; none where it begins behind the text's end. */
  readonly mark: { readonly kind: MarkKind; readonly from: number; readonly length: number } | null;
  readonly isUnsure: boolean;
}

const anyWordSeed: fc.Arbitrary<WordSeed> = fc.record({
  text: fc.oneof({ weight: 12, arbitrary: anyText }, { weight: 1, arbitrary: fc.constant('[bell strikes]') }),
  lengthMs: fc.integer({ min: 0, max: 900 }),
  pauseMs: fc.oneof(fc.constant(0), fc.integer({ min: 0, max: 1500 })),
  timing: fc.constantFrom<Word['timing'][]>('heard', 'heard', 'fitted', 'estimated'),
  shown: fc.oneof({ weight: 8, arbitrary: fc.constant(true) }, { weight: 1, arbitrary: fc.constant(false) }),
  speaker: fc.integer({ min: 0, max: 3 }),
  startsParagraph: fc.boolean(),
  mark: fc.option(
    fc.record({
      kind: fc.constantFrom<MarkKind[]>('i', 'b', 'u'),
      from: fc.integer({ min: 0, max: 3 }),
      length: fc.integer({ min: 1, max: 6 })
    }),
    { freq: 4 }
  ),
  isUnsure: fc.boolean()
});

const markOf = ({ mark, text }: WordSeed): readonly Mark[] => {
  // Marks stand on whole letters: between the halves of one there is nothing to set.
  const isPlain = /^[\x20-\x7e]+$/.test(text) && !text.startsWith('[');
  if (mark === null || !isPlain || mark.from >= text.length) return [];
  return [{ kind: mark.kind, from: mark.from, to: Math.min(text.length, mark.from + mark.length) }];
};

const anyCueSeed = fc.record({
  words: fc.array(anyWordSeed, { maxLength: 7 }),
  loose: fc.array(anyWordSeed, { maxLength: 1 }),
  /** Negative: starts before the last cue ended. */
  aheadMs: fc.integer({ min: -1500, max: 2000 }),
  tailMs: fc.integer({ min: 1, max: 1500 }),
  secondLine: fc.option(fc.integer({ min: 1, max: 6 })),
  locked: fc.boolean(),
  placement: fc.constantFrom(null, ...pointSchema.options),
  settings: fc.option(fc.constantFrom('line:20%', 'line:0 position:5% align:start', 'vertical:rl'), { freq: 5 })
});

/** Tracks with overlapping cues, empty ones, described sounds, words left out or without a cue, and right-to-left text. */
export const anyTrack: fc.Arbitrary<Track> = fc.array(anyCueSeed, { minLength: 1, maxLength: 9 }).map((seeds) => {
  const drafts: { cue: Cue; words: Word[]; loose: Word[] }[] = [];
  let nowMs = 2000;
  let count = 0;
  const wordOf = (seed: WordSeed, startMs: number): Word =>
    makeWord({
      id: `w${count++}`,
      text: seed.text,
      startMs,
      endMs: startMs + seed.lengthMs,
      timing: seed.timing,
      confidence: seed.timing === 'heard' ? 0.5 : null,
      shown: seed.shown,
      speakerId: seed.speaker === 0 ? null : `s${seed.speaker}`,
      startsParagraph: seed.startsParagraph,
      marks: markOf(seed),
      alternatives: seed.isUnsure && seed.timing === 'heard' ? [`${seed.text}s`] : []
    });
  for (const [at, seed] of seeds.entries()) {
    const startMs = Math.max(0, nowMs + seed.aheadMs);
    let wordMs = startMs;
    const lay = (wordSeed: WordSeed): Word => {
      const word = wordOf(wordSeed, wordMs);
      wordMs += wordSeed.lengthMs + wordSeed.pauseMs;
      return word;
    };
    const words = seed.words.map(lay);
    const cue = makeCue({
      id: `c${at}`,
      startMs,
      endMs: Math.max(wordMs, startMs) + seed.tailMs,
      wordIds: words.map((word) => word.id),
      lineStarts: words
        .slice(seed.secondLine ?? words.length)
        .slice(0, 1)
        .map((word) => word.id),
      locked: seed.locked,
      placement: seed.placement,
      carried: seed.settings === null ? null : { format: 'vtt', settings: seed.settings }
    });
    nowMs = cue.endMs;
    drafts.push({ cue, words, loose: seed.loose.map(lay).map((word) => ({ ...word, shown: false })) });
  }
  drafts.sort((a, b) => compareCues(a.cue, b.cue));
  return makeTrack({
    id: 't',
    recordingId: 'r',
    language: 'en',
    title: 'A track',
    sourceTrackId: drafts.length % 2 === 0 ? asTrackId('source') : null,
    words: drafts.flatMap((draft) => [...draft.words, ...draft.loose]),
    cues: drafts.map((draft) => draft.cue),
    speakers: [makeSpeaker('s1', 'Ines'), makeSpeaker('s2', 'Tobin'), makeSpeaker('s3', 'R & D <the wall>')]
  });
});

const anyPhrase = fc.array(anyText, { maxLength: 6 }).map((words) => words.join(' '));
const anyLines = fc.array(anyPhrase, { maxLength: 3 });
const ids = (prefix: string) => fc.integer({ min: 0, max: 1e9 }).map((n) => `${prefix}${n}`);

/**
 * An edit of each type in turn, most of them possible on the track: its picks are numbers that are laid on what the
 * track has when it is used, so that the same edit can follow others.
 */
export interface CommandSeed {
  readonly type: Command['type'];
  readonly pick: number;
  readonly many: number;
  readonly startMs: number;
  readonly lengthMs: number;
  readonly flag: boolean;
  readonly phrase: string;
  readonly lines: readonly string[];
  readonly mint: string;
}

export const SEED_TYPES: readonly CommandSeed['type'][] = [
  'setWordText',
  'replaceWords',
  'setWordsShown',
  'setParagraph',
  'setSpeaker',
  'addSpeaker',
  'renameSpeaker',
  'setCueTimes',
  'timeCues',
  'setCueText',
  'splitCue',
  'mergeCues',
  'moveBorder',
  'addCue',
  'removeCue',
  'setCuePlacement',
  'annotateCue',
  'setLook',
  'setSpeakerLook',
  'setCueLooks',
  'setRules',
  'setSheet',
  'setNames',
  'setState',
  'setTitle',
  'takeBack',
  'writeRows',
  'markRows',
  'retime',
  'retimePieces',
  'setCues',
  'addHeard',
  'takeHearing'
];

/** Those that a browser may send. */
const CLIENT_TYPES = SEED_TYPES.filter((type) => !['addHeard', 'takeHearing'].includes(type));

export const anyCommandSeed: fc.Arbitrary<CommandSeed> = fc.record({
  type: fc.constantFrom(...SEED_TYPES),
  pick: fc.nat(),
  many: fc.integer({ min: 1, max: 6 }),
  startMs: fc.integer({ min: 0, max: 20_000 }),
  lengthMs: fc.integer({ min: 0, max: 6000 }),
  flag: fc.boolean(),
  phrase: anyPhrase,
  lines: anyLines,
  mint: ids('n')
});

export const anyClientCommandSeed: fc.Arbitrary<CommandSeed> = anyCommandSeed.filter(({ type }) =>
  CLIENT_TYPES.includes(type)
);

/** The seed's edit on this track; ids that do not exist where the track has nothing to pick. */
export function commandFromSeed(track: Track, seed: CommandSeed): Command {
  const word = track.words[seed.pick % Math.max(1, track.words.length)];
  const wordId = word?.id ?? asWordId('none');
  const at = seed.pick % Math.max(1, track.cues.length);
  const cue = track.cues[at];
  const cueId = cue?.id ?? asCueId('none');
  const from = seed.pick % Math.max(1, track.words.length);
  const run = track.words.slice(from, from + seed.many).map((one) => one.id);
  const wordIds = run.length > 0 ? run : [asWordId('none')];
  let minted = 0;
  const mint = (): string => `${seed.mint}-${minted++}`;
  const complete = (command: ClientCommand): Command =>
    completeCommand(track, command, { mint, atMs: 1_790_000_000_000 });
  switch (seed.type) {
    case 'setWordText':
      return complete({ type: seed.type, wordId, text: seed.phrase.split(' ')[0]! });
    case 'replaceWords':
      return complete({ type: seed.type, wordIds, ...textAndTimes(seed) });
    case 'setWordsShown':
      return { type: seed.type, wordIds, shown: seed.flag };
    case 'setParagraph':
      return { type: seed.type, wordId, starts: seed.flag };
    case 'setSpeaker':
      return { type: seed.type, wordIds, speakerId: seed.flag ? 's1' : null };
    case 'addSpeaker':
      return complete({ type: seed.type, name: 'Someone' });
    case 'renameSpeaker':
      return { type: seed.type, speakerId: seed.many > 5 ? 'nobody' : 's2', name: 'Someone' };
    case 'setCueTimes':
      return { type: seed.type, cueId, ...toSpan({ startMs: seed.startMs, endMs: seed.startMs + seed.lengthMs }) };
    case 'timeCues': {
      const times = track.cues
        .filter((_, index) => index % seed.many === 0)
        .map((one) => {
          const startMs = Math.max(0, one.startMs + seed.startMs - 8000);
          return { cueId: one.id, ...toSpan({ startMs, endMs: startMs + seed.lengthMs }) };
        });
      // No edit times nothing: without cues it is one that cannot be applied.
      const unknown = { cueId, ...toSpan({ startMs: seed.startMs, endMs: seed.startMs + seed.lengthMs }) };
      return { type: seed.type, times: times.length === 0 ? [unknown] : times };
    }
    case 'setCueText':
      return complete({ type: seed.type, cueId, lines: seed.lines });
    case 'splitCue':
      return complete({
        type: seed.type,
        cueId,
        wordId: cue?.wordIds[1 + (seed.many % Math.max(1, cue.wordIds.length - 1))] ?? wordId
      });
    case 'mergeCues':
      return { type: seed.type, cueIds: [cueId, track.cues[at + 1]?.id ?? track.cues[at - 1]?.id ?? asCueId('none')] };
    case 'moveBorder':
      return { type: seed.type, cueId, direction: seed.flag ? 'pull' : 'push' };
    case 'addCue':
      return complete({
        type: seed.type,
        ...toSpan({ startMs: seed.startMs, endMs: seed.startMs + seed.lengthMs + 1 }),
        lines: seed.lines
      });
    case 'removeCue':
      return { type: seed.type, cueId };
    case 'setCuePlacement':
      return { type: seed.type, cueId, placement: seed.flag ? 'top centre' : null };
    case 'annotateCue':
      return { type: seed.type, cueId, locked: seed.flag, note: seed.phrase };
    case 'setLook':
      return {
        type: seed.type,
        look: { sizePercent: 4 + seed.many, placement: 'top right', outline: null, box: { opacity: seed.many / 10 } },
        ...(seed.flag && { from: { name: `Look ${seed.phrase}`, version: seed.many } })
      };
    case 'setSpeakerLook':
      return {
        type: seed.type,
        speakerId: track.speakers[seed.many % Math.max(1, track.speakers.length)]?.id ?? 'none',
        look: seed.flag ? { color: '#ffcc00', motion: { come: 'fade' } } : seed.many > 2 ? null : { color: null }
      };
    case 'setCueLooks':
      return {
        type: seed.type,
        cueIds: [cueId, ...track.cues.filter((_, place) => place % 3 === seed.many % 3).map(({ id }) => id)],
        look: seed.flag
          ? { italic: true, outline: { widthEm: seed.many / 20 }, placement: { xPercent: 40, yPercent: 60 } }
          : seed.many > 2
            ? null
            : { italic: null, outline: null, placement: null, sizePercent: 5 }
      };
    case 'setRules':
      return { type: seed.type, rules: { ...track.rules, maxCharsPerLine: 20 + seed.many } };
    case 'setSheet':
      return {
        ...{ type: seed.type, sheet: { min_gap: { severity: seed.flag ? 'off' : 'error' } } },
        ...(seed.many > 3 && { from: { name: 'House', version: seed.many } })
      };
    case 'setNames':
      return { type: seed.type, names: seed.flag ? [seed.phrase, 'Ada Wren'] : [] };
    case 'setState':
      return { type: seed.type, state: seed.flag ? 'ready' : 'draft' };
    case 'setTitle':
      return { type: seed.type, title: seed.phrase };
    case 'takeBack':
      return { type: seed.type, changes: [{ type: 'fields', fields: { title: seed.phrase } }] };
    case 'writeRows':
      return complete({
        type: seed.type,
        cues: [cueId, ...track.cues.filter((_, place) => place % 3 === seed.many % 3).map(({ id }) => id)].map(
          (id) => ({
            cueId: id,
            lines: seed.lines,
            translation: { state: seed.flag ? 'machine' : 'mine', sourceText: seed.phrase },
            ...(seed.many > 3 && { sourceCueIds: [asCueId(`s${seed.pick}`)], speakerId: 's1', doubts: [0] })
          })
        )
      });
    case 'markRows':
      return {
        type: seed.type,
        cues: [{ cueId, translation: { state: seed.flag ? 'done' : 'machine', sourceText: seed.phrase } }]
      };
    case 'retime':
      return {
        type: seed.type,
        shiftMs: seed.startMs - 10_000,
        speed: 0.5 + seed.many / 4,
        ...(seed.flag && { fromMs: wholeMs(seed.startMs), toMs: wholeMs(seed.startMs + seed.lengthMs) })
      };
    case 'retimePieces':
      return {
        type: seed.type,
        pieces: [
          { fromMs: wholeMs(0), toMs: wholeMs(seed.startMs + 1), shiftMs: seed.lengthMs, speed: 1 },
          {
            fromMs: wholeMs(seed.startMs + 1),
            toMs: wholeMs(60_000),
            shiftMs: -seed.lengthMs,
            speed: 0.5 + seed.many / 4
          }
        ]
      };
    case 'setCues':
      return { type: seed.type, rules: track.rules, cues: oneWordCues(track, seed) };
    case 'addHeard': {
      const words = heardWords(seed, mint);
      const [startMs, endMs] = [words[0]!.startMs, words.at(-1)!.endMs + 1];
      const inCue = { id: mint(), startMs, endMs, wordIds: words.map((one) => one.id) };
      return { type: seed.type, speakers: [], parts: [{ cue: seed.flag ? makeCue(inCue) : null, words }] };
    }
    case 'takeHearing':
      return { type: seed.type, wordIds, words: [...(seed.flag && word ? [word] : []), ...heardWords(seed, mint)] };
  }
}

/** Now and then a text comes with the times it was heard at. */
function textAndTimes({ flag, many, phrase, lines, startMs }: CommandSeed): { text: string; times?: Span[] } {
  if (!flag) return { text: lines.join('\n') };
  const times = textTokens(phrase, 'en').map((_, at) =>
    toSpan({ startMs: startMs + at * 250, endMs: startMs + at * 250 + 200 })
  );
  return { text: phrase, ...(many > 3 && { times }) };
}

const heardWords = ({ lines, startMs }: CommandSeed, mint: () => string): Word[] =>
  ['and', ...lines.flatMap((line) => line.split(' ').filter((text) => text !== ''))].map((text, at) =>
    makeWord({ id: mint(), text, startMs: startMs + at * 300, endMs: startMs + at * 300 + 200, timing: 'heard' })
  );

/** A new set of cues over the words, one every few words. */
function oneWordCues(track: Track, seed: CommandSeed): CommandOf<'setCues'>['cues'] {
  const cues: Cue[] = [];
  for (let at = 0; at < track.words.length; at += seed.many) {
    const run = track.words.slice(at, at + seed.many);
    const startMs = Math.min(...run.map((word) => word.startMs));
    cues.push(
      makeCue({
        id: `${seed.mint}-${at}`,
        startMs,
        endMs: startMs + 1 + seed.lengthMs,
        wordIds: run.map((word) => word.id)
      })
    );
  }
  return cues;
}

/** The words of a cue, for expectations. */
export const textOf = (track: Track, cueId: CueId): string => {
  const { cueAt, findWord } = lookUp(track);
  return track.cues[cueAt.get(cueId)!]!.wordIds.map((id) => findWord(id)!.text).join(' ');
};
