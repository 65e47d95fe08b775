/** Making, splitting, merging and removing cues, and notes, locks and places of cues. */
import { z } from 'zod';
import { breakIntoLines } from '../cueing';
import { asCueId, cueIdSchema, type WordId, asWordId, wordIdSchema } from '../id';
import { ok, type Result } from '../result';
import { msSchema, toSpan, wholeMs, type Span } from '../time';
import {
  compareCues,
  cueSchema,
  joinTranslations,
  joinWords,
  liftSigns,
  lookUp,
  makeCue,
  placementSchema,
  rulesSchema,
  shownWords,
  tokenize,
  type Cue,
  type Track,
  type Word
} from '../track';
import { arrange, insertionPoint, keptLineStarts, settleCue, spliceWords } from './arrange';
import {
  changeCue,
  defineCommand,
  endsBeforeStart,
  findTaken,
  idsMissing,
  idTaken,
  problem,
  timesMissing,
  unknownCue,
  unknownWord,
  type CommandProblem
} from './command';
import { atMs, lines, MOST_WORDS, newWordIds, times } from './fields';
import { lineTokens, rewriteRun, settleTimes, settleWritten, type Room } from './rewrite';

const setCueText = defineCommand({
  schema: z.object({ type: z.literal('setCueText'), cueId: cueIdSchema, lines, times, newWordIds, atMs }),
  label: 'write a cue',
  complete: (track, command, { mint, atMs: nowMs }) => ({
    ...command,
    atMs: command.atMs ?? nowMs,
    newWordIds: command.newWordIds ?? mintFor(command.lines, track, mint)
  }),
  newIds: (command) => command.newWordIds ?? [],
  resolve(track, command) {
    const { cueAt, wordAt, findWord } = lookUp(track);
    const at = cueAt.get(command.cueId);
    if (at === undefined) return unknownCue(command.cueId);
    const taken = findTaken(track, command.newWordIds ?? []);
    if (taken !== undefined) return idTaken(taken);
    const cue = track.cues[at]!;
    const old = cue.wordIds.map((id) => findWord(id)!);
    const rewritten = rewriteLines(track, command, old, { deleted: 'not shown', room: cue });
    if (!rewritten.ok) return rewritten;
    const run = rewritten.value;
    const next = { ...cue, wordIds: run.words.map((word) => word.id), lineStarts: run.lineStarts };
    const from = old.length > 0 ? wordAt.get(old[0]!.id)! : insertionPoint(track.words, track.cues, at);
    const words = spliceWords(track, from, old.length, settleWritten(run.words, cue.startMs, cue.endMs));
    return ok({ ...track, words, cues: track.cues.with(at, next) });
  }
});

const mintFor = (written: readonly string[], track: Track, mint: () => string): readonly WordId[] =>
  written.flatMap((line) => tokenize(line, track.language).map(() => asWordId(mint())));

interface Writing {
  readonly lines: readonly string[];
  readonly times?: readonly Room[] | undefined;
  readonly newWordIds?: readonly WordId[] | undefined;
  readonly atMs?: number | undefined;
  readonly type: string;
}

/** The old words written anew as lines of a cue, and the words that begin a line after the first. */
function rewriteLines(
  track: Track,
  writing: Writing,
  old: readonly Word[],
  options: { readonly deleted: 'gone' | 'not shown'; readonly room: Room }
): Result<{ readonly words: readonly Word[]; readonly lineStarts: readonly WordId[] }, CommandProblem> {
  const written = liftSigns(
    track,
    old.filter((word) => word.shown),
    writing.lines
  );
  const lines = written.map((line) => lineTokens(line, track.language)).filter((line) => line.length > 0);
  const tokens = lines.flat();
  if (writing.times !== undefined && writing.times.length !== tokens.length) return timesMissing(writing.times, tokens);
  const { newWordIds: newIds = [], atMs = 0, times } = writing;
  const run = rewriteRun(old, tokens, { newIds, atMs, times, ...options });
  if (run === null) return idsMissing(writing);
  const lineStarts: WordId[] = [];
  let token = 0;
  for (const line of lines) {
    if (token > 0) lineStarts.push(run.tokenIds[token]!);
    token += line.length;
  }
  return ok({ words: run.words, lineStarts });
}

/** `wordId` begins the second part. */
const splitCue = defineCommand({
  schema: z.object({
    type: z.literal('splitCue'),
    cueId: cueIdSchema,
    wordId: wordIdSchema,
    newCueId: cueIdSchema.optional()
  }),
  label: 'split a cue',
  complete: (_, command, { mint }) => ({ ...command, newCueId: command.newCueId ?? asCueId(mint()) }),
  newIds: ({ newCueId }) => (newCueId === undefined ? [] : [newCueId]),
  resolve(track, command) {
    const { cueAt, findWord } = lookUp(track);
    const at = cueAt.get(command.cueId);
    if (at === undefined) return unknownCue(command.cueId);
    if (command.newCueId === undefined) return idsMissing(command);
    const taken = findTaken(track, [command.newCueId]);
    if (taken !== undefined) return idTaken(taken);
    const cue = track.cues[at]!;
    const place = cue.wordIds.indexOf(command.wordId);
    if (place < 0) return problem('unknown_word', `The word ${command.wordId} is not in the cue ${command.cueId}.`);
    const words = cue.wordIds.map((id) => findWord(id)!);
    if (!words.slice(0, place).some((word) => word.shown)) {
      return problem('first_word', 'Nothing is shown before this word; a cue is split at a later one.');
    }
    if (cue.endMs - cue.startMs < 2) return problem('bad_times', 'The cue is too short to be split.');
    const { splitMs, resumeMs } = splitTimes(cue, words, place, track.rules.minGapMs);
    const first: Cue = {
      ...cue,
      endMs: wholeMs(splitMs),
      wordIds: cue.wordIds.slice(0, place),
      lineStarts: cue.lineStarts.filter((id) => cue.wordIds.indexOf(id) < place)
    };
    const second: Cue = {
      ...cue,
      id: command.newCueId,
      startMs: wholeMs(resumeMs),
      bookmark: false,
      note: '',
      wordIds: cue.wordIds.slice(place),
      lineStarts: []
    };
    const secondWords = words.slice(place);
    const kept = cue.lineStarts.filter((id) => cue.wordIds.indexOf(id) > place);
    const secondCue = { ...second, lineStarts: keptLineStarts({ ...second, lineStarts: kept }, secondWords) };
    const cues = track.cues.toSpliced(at, 1, first, secondCue);
    const arranged = arrange({ ...track, cues }, cues);
    return ok({ ...arranged, words: settleCue(settleCue(arranged.words, first), secondCue) });
  }
});

/** The second part starts with its first word; the first part ends the least gap before it, where there is time for one. */
function splitTimes(
  cue: Span,
  words: readonly Word[],
  place: number,
  minGapMs: number
): { splitMs: number; resumeMs: number } {
  const word = words[place]!;
  const leastMs = Math.min(100, Math.floor((cue.endMs - cue.startMs) / 2));
  const spoken = word.timing === 'estimated' ? undefined : word.startMs;
  const byLength =
    cue.startMs +
    Math.round(
      ((cue.endMs - cue.startMs) * joinWords(words.slice(0, place)).length) / Math.max(1, joinWords(words).length)
    );
  const isInside = spoken !== undefined && spoken >= cue.startMs + leastMs && spoken <= cue.endMs - leastMs;
  const resumeMs = isInside ? spoken : Math.min(Math.max(byLength, cue.startMs + leastMs), cue.endMs - leastMs);
  return { resumeMs, splitMs: resumeMs - minGapMs >= cue.startMs + leastMs ? resumeMs - minGapMs : resumeMs };
}

/** Cues that follow one another; the first one's id stays. */
const mergeCues = defineCommand({
  schema: z.object({ type: z.literal('mergeCues'), cueIds: z.array(cueIdSchema).min(2).max(1000).readonly() }),
  label: 'merge cues',
  resolve(track, command) {
    const { cueAt, wordAt } = lookUp(track);
    const places: number[] = [];
    for (const id of command.cueIds) {
      const at = cueAt.get(id);
      if (at === undefined) return unknownCue(id);
      places.push(at);
    }
    places.sort((a, b) => a - b);
    if (places.some((at, step) => at !== places[0]! + step)) {
      return problem('not_adjacent', 'Only cues that follow one another can be merged.');
    }
    const cues = places.map((at) => track.cues[at]!);
    const ids = cues.flatMap((cue) => cue.wordIds);
    const from = ids.length === 0 ? 0 : wordAt.get(ids[0]!)!;
    const to = ids.length === 0 ? 0 : wordAt.get(ids.at(-1)!)! + 1;
    const startMs = Math.min(...cues.map((cue) => cue.startMs));
    const endMs = Math.max(...cues.map((cue) => cue.endMs));
    const run = settleTimes(track.words.slice(from, to), wholeMs(startMs), wholeMs(endMs));
    const shown = run.filter((word) => word.shown);
    const seams = cues.slice(1).flatMap((cue) => shownWords(track, cue)[0]?.id ?? []);
    const lineStarts = [...new Set([...cues.flatMap((cue) => cue.lineStarts), ...seams])].filter(
      (id) => shown.findIndex((word) => word.id === id) > 0
    );
    const order = new Map(run.map((word, at) => [word.id, at]));
    lineStarts.sort((a, b) => order.get(a)! - order.get(b)!);
    const merged: Cue = {
      ...cues[0]!,
      ...toSpan({ startMs, endMs }),
      wordIds: run.map((word) => word.id),
      lineStarts: lineStarts.length < track.rules.maxLines ? lineStarts : breakIntoLines(shown, track),
      locked: cues.some((cue) => cue.locked),
      bookmark: cues.some((cue) => cue.bookmark),
      note: cues
        .map((cue) => cue.note)
        .filter((note) => note !== '')
        .join('\n'),
      ...joinTranslations(cues)
    };
    const words = to > from ? spliceWords(track, from, to - from, run) : track.words;
    const left = { ...track, words, cues: track.cues.toSpliced(places[0]!, places.length, merged) };
    return ok(arrange(left, left.cues));
  }
});

/**
 * The next cue's first word becomes this one's last, or this one's last the next one's first. The edge between them
 * follows the word, and the lines of both are laid anew.
 */
const moveBorder = defineCommand({
  schema: z.object({ type: z.literal('moveBorder'), cueId: cueIdSchema, direction: z.enum(['pull', 'push']) }),
  label: 'move a word between cues',
  resolve(track, { cueId, direction }) {
    const { cueAt, wordAt } = lookUp(track);
    const at = cueAt.get(cueId);
    if (at === undefined) return unknownCue(cueId);
    const [cue, next] = [track.cues[at]!, track.cues[at + 1]];
    if (next === undefined) return problem('not_adjacent', 'There is no next cue.');
    const [own, theirs] = [shownWords(track, cue), shownWords(track, next)];
    const [last, first] = [own.at(-1), theirs[0]];
    const begins = direction === 'pull' ? theirs[1] : own.length > 1 ? last : undefined;
    if (begins === undefined) return problem('first_word', 'It would leave a cue without words: merge them instead.');
    if (
      track.rules.sharedCues === 'never' &&
      last !== undefined &&
      first !== undefined &&
      last.speakerId !== first.speakerId
    )
      return problem('other_speaker', 'Another speaker begins there; by the rules no cue has two.');
    const ids = [...cue.wordIds, ...next.wordIds];
    const run = track.words.slice(wordAt.get(ids[0]!), wordAt.get(ids.at(-1)!)! + 1);
    const place = run.indexOf(begins);
    const span = toSpan({ startMs: cue.startMs, endMs: Math.max(cue.endMs, next.endMs) });
    if (span.endMs - span.startMs < 2) return problem('bad_times', 'The two cues are too short for a border.');
    const { splitMs, resumeMs } = splitTimes(span, run, place, track.rules.minGapMs);
    const laid = (one: Cue, words: readonly Word[]): Cue => ({
      ...one,
      wordIds: words.map((word) => word.id),
      lineStarts: breakIntoLines(
        words.filter((word) => word.shown),
        track
      )
    });
    const cues = track.cues.toSpliced(
      at,
      2,
      laid({ ...cue, endMs: wholeMs(splitMs) }, run.slice(0, place)),
      laid({ ...next, startMs: wholeMs(resumeMs), endMs: span.endMs }, run.slice(place))
    );
    const arranged = arrange({ ...track, cues }, cues);
    return ok({ ...arranged, words: settleCue(settleCue(arranged.words, cues[at]!), cues[at + 1]!) });
  }
});

const addCue = defineCommand({
  schema: z.object({
    type: z.literal('addCue'),
    startMs: msSchema,
    endMs: msSchema,
    lines,
    times,
    newCueId: cueIdSchema.optional(),
    newWordIds,
    atMs
  }),
  label: 'add a cue',
  complete: (track, command, { mint, atMs: nowMs }) => ({
    ...command,
    atMs: command.atMs ?? nowMs,
    newCueId: command.newCueId ?? asCueId(mint()),
    newWordIds: command.newWordIds ?? mintFor(command.lines, track, mint)
  }),
  newIds: ({ newCueId, newWordIds: words = [] }) => [...(newCueId === undefined ? [] : [newCueId]), ...words],
  resolve(track, command) {
    if (command.newCueId === undefined || command.newWordIds === undefined) return idsMissing(command);
    if (command.endMs <= command.startMs) return endsBeforeStart(command);
    const taken = findTaken(track, [command.newCueId, ...command.newWordIds]);
    if (taken !== undefined) return idTaken(taken);
    const written = rewriteLines(track, command, [], { deleted: 'gone', room: command });
    if (!written.ok) return written;
    const run = written.value;
    const cue = makeCue({
      id: command.newCueId,
      startMs: command.startMs,
      endMs: command.endMs,
      wordIds: run.words.map((word) => word.id),
      lineStarts: run.lineStarts
    });
    const cues = [...track.cues, cue].sort(compareCues);
    const at = insertionPoint(track.words, cues, cues.indexOf(cue));
    // A cue drawn by hand begins a paragraph of its own.
    const words = run.words.map((word, index) => (index === 0 ? { ...word, startsParagraph: true } : word));
    return ok({ ...track, words: spliceWords(track, at, 0, settleTimes(words, cue.startMs, cue.endMs)), cues });
  }
});

/** Heard words stay, not shown; typed and estimated ones go with the cue. */
const removeCue = defineCommand({
  schema: z.object({ type: z.literal('removeCue'), cueId: cueIdSchema }),
  label: 'delete a cue',
  resolve(track, command) {
    const { cueAt, wordAt } = lookUp(track);
    const at = cueAt.get(command.cueId);
    if (at === undefined) return unknownCue(command.cueId);
    const cue = track.cues[at]!;
    const from = cue.wordIds.length === 0 ? 0 : wordAt.get(cue.wordIds[0]!)!;
    const left = track.words
      .slice(from, from + cue.wordIds.length)
      .filter((word) => word.timing !== 'estimated')
      .map((word) => (word.shown ? { ...word, shown: false } : word));
    return ok({
      ...track,
      words: spliceWords(track, from, cue.wordIds.length, left),
      cues: track.cues.toSpliced(at, 1)
    });
  }
});

const setCuePlacement = defineCommand({
  schema: z.object({
    type: z.literal('setCuePlacement'),
    cueId: cueIdSchema,
    placement: placementSchema.nullable()
  }),
  label: 'place a cue',
  resolve: (track, { cueId, placement }) => changeCue(track, cueId, (cue) => ({ ...cue, placement, carried: null }))
});

const annotateCue = defineCommand({
  schema: z.object({
    type: z.literal('annotateCue'),
    cueId: cueIdSchema,
    locked: z.boolean().optional(),
    bookmark: z.boolean().optional(),
    note: z.string().max(10_000).optional()
  }),
  label: 'mark a cue',
  resolve: (track, { cueId, locked, bookmark, note }) =>
    changeCue(track, cueId, (cue) => ({
      ...cue,
      locked: locked ?? cue.locked,
      bookmark: bookmark ?? cue.bookmark,
      note: note ?? cue.note
    }))
});

/** The cues made anew, whole, over the words there are. */
const setCues = defineCommand({
  schema: z.object({
    type: z.literal('setCues'),
    cues: z.array(cueSchema).max(MOST_WORDS).readonly(),
    rules: rulesSchema
  }),
  label: 'break anew',
  newIds: ({ cues }, isKnown) => cues.map((cue) => cue.id).filter((id) => isKnown?.(id) !== true),
  resolve(track, command) {
    const { wordAt, findWord } = lookUp(track);
    const words = new Map<string, Word>();
    for (const cue of command.cues) {
      if (cue.endMs <= cue.startMs) return endsBeforeStart(cue);
      for (const [place, id] of cue.wordIds.entries()) {
        const at = wordAt.get(id);
        if (at === undefined) return unknownWord(id);
        if (words.has(id) || at !== wordAt.get(cue.wordIds[0]!)! + place) {
          return problem('not_contiguous', `The word ${id} does not stand where the cue ${cue.id} needs it.`);
        }
        words.set(id, track.words[at]!);
      }
      if (cue.lineStarts.some((id) => !cue.wordIds.includes(id))) {
        return problem('unknown_word', `A line of the cue ${cue.id} starts at a word that is not its own.`);
      }
      for (const word of settleTimes(
        cue.wordIds.map((id) => findWord(id)!),
        cue.startMs,
        cue.endMs
      ))
        words.set(word.id, word);
    }
    const ids = new Set<string>();
    for (const { id } of command.cues) {
      if (ids.has(id)) return idTaken(id);
      ids.add(id);
    }
    const settled = {
      ...track,
      rules: command.rules,
      cues: command.cues,
      words: track.words.map((word) => words.get(word.id) ?? word)
    };
    return ok(arrange(settled, command.cues));
  }
});

export const cueCommands = [
  setCueText,
  splitCue,
  mergeCues,
  moveBorder,
  addCue,
  removeCue,
  setCuePlacement,
  annotateCue,
  setCues
] as const;
