/**
 * Applying edits. Nothing else makes a track from a track. Words and cues that an edit does not touch keep their
 * identity, so that views compare by `===`; the inverse is the stretch that changed, with its old values whole.
 */
import { breakIntoLines } from '../cueing';
import { assertNever, fail, ok, type Result } from '../result';
import {
  compareCues,
  joinWords,
  liftSigns,
  lookUp,
  makeCue,
  shownWords,
  type Cue,
  type Track,
  type Word
} from '../track';
import type { Edit, EditOf, EditProblem, EditProblemCode } from './edit';
import { lineTokens, retype, rewriteRun, settleTimes, settleWritten, textTokens, type Room } from './rewrite';

export interface Applied {
  readonly track: Track;
  readonly inverse: EditOf<'restore'>;
}

type Changed = Result<Track, EditProblem>;

const problem = (code: EditProblemCode, message: string): Result<never, EditProblem> => fail({ code, message });

/** The track with the edit done, and the edit that takes it back exactly. The given track stays as it is. */
export function applyEdit(track: Track, edit: Edit): Result<Applied, EditProblem> {
  const done = change(track, edit);
  return done.ok ? ok({ track: done.value, inverse: inverseOf(track, done.value) }) : done;
}

/** All edits in order, or none. The inverses stand in the order in which they are to be applied. */
export function applyEdits(
  track: Track,
  edits: readonly Edit[]
): Result<{ readonly track: Track; readonly inverses: readonly EditOf<'restore'>[] }, EditProblem> {
  const inverses: EditOf<'restore'>[] = [];
  let now = track;
  for (const edit of edits) {
    const done = applyEdit(now, edit);
    if (!done.ok) return done;
    now = done.value.track;
    inverses.unshift(done.value.inverse);
  }
  return ok({ track: now, inverses });
}

function change(track: Track, edit: Edit): Changed {
  switch (edit.type) {
    case 'setWordText':
      return setWordText(track, edit);
    case 'replaceWords':
      return replaceWords(track, edit);
    case 'setWordsShown':
      return changeWords(track, edit.wordIds, (word) =>
        word.shown === edit.shown ? word : { ...word, shown: edit.shown }
      );
    case 'setParagraph':
      return changeWords(track, [edit.wordId], (word) => ({ ...word, startsParagraph: edit.starts }));
    case 'setSpeaker':
      if (edit.speakerId !== null && !hasSpeaker(track, edit.speakerId)) return unknownSpeaker(edit.speakerId);
      return changeWords(track, edit.wordIds, (word) => ({ ...word, speakerId: edit.speakerId }));
    case 'addSpeaker':
      if (edit.newSpeakerId === undefined) return idsMissing(edit);
      if (hasSpeaker(track, edit.newSpeakerId)) return idTaken(edit.newSpeakerId);
      return ok({ ...track, speakers: [...track.speakers, { id: edit.newSpeakerId, name: edit.name }] });
    case 'renameSpeaker':
      if (!hasSpeaker(track, edit.speakerId)) return unknownSpeaker(edit.speakerId);
      return ok({
        ...track,
        speakers: track.speakers.map((speaker) =>
          speaker.id === edit.speakerId ? { ...speaker, name: edit.name } : speaker
        )
      });
    case 'setCueTimes':
      return setCueTimes(track, edit);
    case 'timeCues':
      return timeCues(track, edit);
    case 'setCueText':
      return setCueText(track, edit);
    case 'splitCue':
      return splitCue(track, edit);
    case 'mergeCues':
      return mergeCues(track, edit);
    case 'addCue':
      return addCue(track, edit);
    case 'removeCue':
      return removeCue(track, edit);
    case 'setCuePlacement':
      return changeCue(track, edit.cueId, (cue) => ({ ...cue, placement: edit.placement, settings: null }));
    case 'annotateCue':
      return changeCue(track, edit.cueId, (cue) => ({
        ...cue,
        locked: edit.locked ?? cue.locked,
        bookmark: edit.bookmark ?? cue.bookmark,
        note: edit.note ?? cue.note
      }));
    case 'setLook':
      return ok({ ...track, look: edit.look });
    case 'setRules':
      return ok({ ...track, rules: edit.rules });
    case 'setTitle':
      return ok({ ...track, title: edit.title });
    case 'retime': {
      const { fromMs = 0, toMs = Number.POSITIVE_INFINITY, shiftMs, speed } = edit;
      return retime(track, [{ fromMs, toMs, shiftMs, speed }]);
    }
    case 'retimePieces':
      return retime(track, edit.pieces);
    case 'setCues':
      return setCues(track, edit);
    case 'addHeard':
      return addHeard(track, edit);
    case 'takeHearing':
      return takeHearing(track, edit);
    case 'restore':
      return restore(track, edit);
    default:
      return assertNever(edit);
  }
}

const unknownWord = (id: string): Result<never, EditProblem> =>
  problem('unknown_word', `There is no word ${id} in this track.`);
const unknownCue = (id: string): Changed => problem('unknown_cue', `There is no cue ${id} in this track.`);
const unknownSpeaker = (id: string): Changed => problem('unknown_speaker', `There is no speaker ${id} in this track.`);
const idTaken = (id: string): Changed => problem('id_taken', `The id ${id} is in use in this track; mint another.`);
const idsMissing = (edit: Edit) => problem('ids_missing', `The edit ${edit.type} lacks ids for what it creates.`);

const hasSpeaker = (track: Track, id: string): boolean => track.speakers.some((speaker) => speaker.id === id);

function findTaken(track: Track, ids: readonly string[]): string | undefined {
  const { wordAt, cueAt } = lookUp(track);
  return ids.find((id, at) => wordAt.get(id) !== undefined || cueAt.get(id) !== undefined || ids.indexOf(id) !== at);
}

function changeWords(track: Track, ids: readonly string[], map: (word: Word) => Word): Changed {
  const { wordAt } = lookUp(track);
  const words = [...track.words];
  for (const id of ids) {
    const at = wordAt.get(id);
    if (at === undefined) return unknownWord(id);
    words[at] = map(words[at]!);
  }
  return ok({ ...track, words });
}

function changeCue(track: Track, id: string, map: (cue: Cue) => Cue): Changed {
  const at = lookUp(track).cueAt.get(id);
  if (at === undefined) return unknownCue(id);
  return ok({ ...track, cues: track.cues.with(at, map(track.cues[at]!)) });
}

/** The track with one stretch of its words replaced: `put` stands where `count` words stood. */
const spliceWords = (track: Track, at: number, count: number, put: readonly Word[]): readonly Word[] =>
  splice(track.words, at, count, put);

/** What a call takes at once without harm to the stack. */
const MOST_ARGUMENTS = 1000;

/** As `toSpliced`, for any number of items. */
const splice = <T>(items: readonly T[], at: number, count: number, put: readonly T[]): readonly T[] =>
  put.length < MOST_ARGUMENTS
    ? items.toSpliced(at, count, ...put)
    : items.slice(0, at).concat(put, items.slice(at + count));

/**
 * The words of a cue in place, timed by `settle`: by default spread anew in the cue where they are estimated. `near`: a
 * place of one of its words, where it is known.
 */
function settleCue(words: readonly Word[], cue: Cue, settle = settleTimes, near = 0): readonly Word[] {
  if (cue.wordIds.length === 0) return words;
  let from = Math.max(0, near - cue.wordIds.length);
  while (words[from]!.id !== cue.wordIds[0]) from++;
  const run = words.slice(from, from + cue.wordIds.length);
  const settled = settle(run, cue.startMs, cue.endMs);
  return settled.every((word, at) => word === run[at]) ? words : splice(words, from, run.length, settled);
}

/** Line starts that still stand in the cue and begin a line: the first shown word needs none. */
function keptLineStarts(cue: Cue, words: readonly Word[]): readonly string[] {
  const shown = words.filter((word) => word.shown).map((word) => word.id);
  const kept = cue.lineStarts.filter((id) => shown.indexOf(id) > 0);
  return kept.length === cue.lineStarts.length ? cue.lineStarts : kept;
}

function setWordText(track: Track, edit: EditOf<'setWordText'>): Changed {
  const { wordAt } = lookUp(track);
  const at = wordAt.get(edit.wordId);
  if (at === undefined) return unknownWord(edit.wordId);
  const text = edit.text.trim().replace(/\s+/g, (space) => (space.includes('\n') ? ' ' : space));
  if (text === '') return problem('empty_text', 'A word cannot be empty; remove it instead.');
  const typed = retype(track.words[at]!, text, edit.atMs ?? 0);
  if (typed.kind === 'speech' && /\s/.test(text)) {
    return problem('word_has_space', `“${text}” is more than one word; replace the words instead.`);
  }
  return ok({ ...track, words: track.words.with(at, typed) });
}

function replaceWords(track: Track, edit: EditOf<'replaceWords'>): Changed {
  const { findWord, findCueOf, cueAt } = lookUp(track);
  const place = findRun(track, edit.wordIds);
  if (!place.ok) return place;
  const from = place.value;
  const taken = findTaken(track, edit.newWordIds ?? []);
  if (taken !== undefined) return idTaken(taken);
  const old = track.words.slice(from, from + edit.wordIds.length);
  const tokens = textTokens(edit.text, track.language, old[0]!.startsParagraph);
  if (edit.times !== undefined && edit.times.length !== tokens.length) return timesMissing(edit.times, tokens);
  const run = rewriteRun(old, tokens, {
    newIds: edit.newWordIds ?? [],
    times: edit.times,
    atMs: edit.atMs ?? 0,
    deleted: 'gone',
    room: roomAround(track, from, from + old.length)
  });
  if (run === null) return idsMissing(edit);
  let words = spliceWords(track, from, old.length, run.words);

  // Each cue that held old words now holds the new ones that came of them; one left without any goes.
  const touched = new Set(old.map((word) => findCueOf(word.id)).filter((cue) => cue !== undefined));
  const inRun = new Set(edit.wordIds);
  const written = new Map(run.words.map((word) => [word.id, word]));
  let cues = track.cues;
  for (const cue of touched) {
    const first = cue.wordIds.findIndex((id) => inRun.has(id));
    const count = cue.wordIds.filter((id) => inRun.has(id)).length;
    const own = run.words.filter((_, at) => findCueOf(old[run.origins[at]!]!.id)?.id === cue.id);
    const wordIds = splice(
      cue.wordIds,
      first,
      count,
      own.map((word) => word.id)
    );
    const at = cues === track.cues ? cueAt.get(cue.id)! : cues.findIndex((other) => other.id === cue.id);
    if (wordIds.length === 0) {
      cues = cues.toSpliced(at, 1);
      continue;
    }
    // A line that began with a word that is gone begins with what stands in its place.
    const lineStarts = cue.lineStarts.map((id) => (wordIds.includes(id) ? id : (standIn(id, old, run) ?? id)));
    const next = { ...cue, wordIds, lineStarts: [...new Set(lineStarts)].filter((id) => wordIds.includes(id)) };
    words = settleCue(words, next, settleWritten, from);
    const whole = wordIds.map((id) => written.get(id) ?? findWord(id)!);
    cues = cues.with(at, { ...next, lineStarts: keptLineStarts(next, whole) });
  }
  return ok({ ...track, words, cues });
}

/** The new word that stands where the old one with this id stood, or after it. */
function standIn(
  id: string,
  old: readonly Word[],
  run: { readonly words: readonly Word[]; readonly origins: readonly number[] }
): string | undefined {
  const at = old.findIndex((word) => word.id === id);
  return run.words.find((_, index) => at >= 0 && run.origins[index]! >= at)?.id;
}

/** Time between the neighbours of the words `from` to `to`. */
function roomAround(track: Track, from: number, to: number): Room {
  const startMs = track.words[from - 1]?.endMs ?? 0;
  return { startMs, endMs: Math.max(startMs, track.words[to]?.startMs ?? startMs) };
}

function setCueText(track: Track, edit: EditOf<'setCueText'>): Changed {
  const { cueAt, wordAt, findWord } = lookUp(track);
  const at = cueAt.get(edit.cueId);
  if (at === undefined) return unknownCue(edit.cueId);
  const taken = findTaken(track, edit.newWordIds ?? []);
  if (taken !== undefined) return idTaken(taken);
  const cue = track.cues[at]!;
  const old = cue.wordIds.map((id) => findWord(id)!);
  const rewritten = rewriteLines(track, edit, old, { deleted: 'not shown', room: cue });
  if (!rewritten.ok) return rewritten;
  const run = rewritten.value;
  const next = { ...cue, wordIds: run.words.map((word) => word.id), lineStarts: run.lineStarts };
  const from = old.length > 0 ? wordAt.get(old[0]!.id)! : insertionPoint(track.words, track.cues, at);
  const words = spliceWords(track, from, old.length, settleWritten(run.words, cue.startMs, cue.endMs));
  return ok({ ...track, words, cues: track.cues.with(at, next) });
}

/** The old words written anew as lines of a cue, and the words that begin a line after the first. */
function rewriteLines(
  track: Track,
  edit: EditOf<'setCueText' | 'addCue'>,
  old: readonly Word[],
  options: { readonly deleted: 'gone' | 'not shown'; readonly room: Room }
): Result<{ readonly words: readonly Word[]; readonly lineStarts: readonly string[] }, EditProblem> {
  const written = liftSigns(
    track,
    old.filter((word) => word.shown),
    edit.lines
  );
  const lines = written.map((line) => lineTokens(line, track.language)).filter((line) => line.length > 0);
  const tokens = lines.flat();
  if (edit.times !== undefined && edit.times.length !== tokens.length) return timesMissing(edit.times, tokens);
  const { newWordIds: newIds = [], atMs = 0, times } = edit;
  const run = rewriteRun(old, tokens, { newIds, atMs, times, ...options });
  if (run === null) return idsMissing(edit);
  const lineStarts: string[] = [];
  let token = 0;
  for (const line of lines) {
    if (token > 0) lineStarts.push(run.tokenIds[token]!);
    token += line.length;
  }
  return ok({ words: run.words, lineStarts });
}

/** Where the words of a cue that has none would stand: ahead of the next cue's. */
function insertionPoint(words: readonly Word[], cues: readonly Cue[], cueAt: number): number {
  const next = cues.slice(cueAt + 1).find((cue) => cue.wordIds.length > 0);
  return next === undefined ? words.length : words.findIndex((word) => word.id === next.wordIds[0]);
}

/** Cues in their order, and the words in the order of the cues; words without a cue stay behind those they follow. */
function arrange(track: Track, cues: readonly Cue[]): Track {
  const sorted = cues.every((cue, at) => at === 0 || compareCues(cues[at - 1]!, cue) < 0)
    ? cues
    : [...cues].sort(compareCues);
  const { wordAt, findCueOf } = lookUp(track);
  let last = -1;
  const inOrder = sorted.every((cue) => {
    const first = cue.wordIds.length === 0 ? last : wordAt.get(cue.wordIds[0]!)!;
    const follows = first >= last;
    last = first;
    return follows;
  });
  if (inOrder) return { ...track, cues: sorted };
  const runs = new Map<string, Word[]>();
  const head: Word[] = [];
  let run = head;
  for (const word of track.words) {
    const cue = findCueOf(word.id);
    if (cue !== undefined) {
      const own = runs.get(cue.id) ?? [];
      runs.set(cue.id, own);
      run = own;
    }
    run.push(word);
  }
  return { ...track, cues: sorted, words: [...head, ...sorted.flatMap((cue) => runs.get(cue.id) ?? [])] };
}

function setCueTimes(track: Track, edit: EditOf<'setCueTimes'>): Changed {
  const at = lookUp(track).cueAt.get(edit.cueId);
  if (at === undefined) return unknownCue(edit.cueId);
  if (edit.endMs <= edit.startMs) return endsBeforeStart(edit);
  const cue = { ...track.cues[at]!, startMs: edit.startMs, endMs: edit.endMs };
  const cues = track.cues.with(at, cue);
  const [before, after] = [cues[at - 1], cues[at + 1]];
  const keepsItsPlace =
    (before === undefined || compareCues(before, cue) < 0) && (after === undefined || compareCues(cue, after) < 0);
  const moved = keepsItsPlace ? { ...track, cues } : arrange(track, cues);
  return ok({ ...moved, words: settleCue(moved.words, cue) });
}

function timeCues(track: Track, edit: EditOf<'timeCues'>): Changed {
  const { cueAt } = lookUp(track);
  const times = new Map<string, EditOf<'timeCues'>['times'][number]>();
  for (const one of edit.times) {
    if (cueAt.get(one.cueId) === undefined) return unknownCue(one.cueId);
    if (one.endMs <= one.startMs) return endsBeforeStart(one);
    times.set(one.cueId, one);
  }
  const cues = track.cues.map((cue) => {
    const one = times.get(cue.id);
    return one === undefined ? cue : { ...cue, startMs: one.startMs, endMs: one.endMs };
  });
  const moved = arrange(track, cues);
  // Words follow the cues: one walk over both settles all that were moved.
  const words: Word[] = [];
  let at = 0;
  for (const cue of moved.cues) {
    if (!times.has(cue.id) || cue.wordIds.length === 0) continue;
    while (moved.words[at]!.id !== cue.wordIds[0]) words.push(moved.words[at++]!);
    words.push(...settleTimes(moved.words.slice(at, at + cue.wordIds.length), cue.startMs, cue.endMs));
    at += cue.wordIds.length;
  }
  return ok({ ...moved, words: [...words, ...moved.words.slice(at)] });
}

const timesMissing = (times: readonly unknown[], tokens: readonly unknown[]) =>
  problem('bad_times', `There are ${times.length} times for ${tokens.length} words: one each, or none at all.`);

const endsBeforeStart = ({ startMs, endMs }: { startMs: number; endMs: number }): Changed =>
  problem('bad_times', `A cue from ${startMs} ms to ${endMs} ms does not end after its start.`);

function splitCue(track: Track, edit: EditOf<'splitCue'>): Changed {
  const { cueAt, findWord } = lookUp(track);
  const at = cueAt.get(edit.cueId);
  if (at === undefined) return unknownCue(edit.cueId);
  if (edit.newCueId === undefined) return idsMissing(edit);
  const taken = findTaken(track, [edit.newCueId]);
  if (taken !== undefined) return idTaken(taken);
  const cue = track.cues[at]!;
  const place = cue.wordIds.indexOf(edit.wordId);
  if (place < 0) return problem('unknown_word', `The word ${edit.wordId} is not in the cue ${edit.cueId}.`);
  const words = cue.wordIds.map((id) => findWord(id)!);
  if (!words.slice(0, place).some((word) => word.shown)) {
    return problem('first_word', 'Nothing is shown before this word; a cue is split at a later one.');
  }
  if (cue.endMs - cue.startMs < 2) return problem('bad_times', 'The cue is too short to be split.');
  const { cutMs, resumeMs } = splitTimes(cue, words, place, track.rules.minGapMs);
  const first: Cue = {
    ...cue,
    endMs: cutMs,
    wordIds: cue.wordIds.slice(0, place),
    lineStarts: cue.lineStarts.filter((id) => cue.wordIds.indexOf(id) < place)
  };
  const second: Cue = {
    ...cue,
    id: edit.newCueId,
    startMs: resumeMs,
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

/** The second part starts with its first word; the first part ends the least gap before it, where there is time for one. */
function splitTimes(
  cue: Cue,
  words: readonly Word[],
  place: number,
  minGapMs: number
): { cutMs: number; resumeMs: number } {
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
  return { resumeMs, cutMs: resumeMs - minGapMs >= cue.startMs + leastMs ? resumeMs - minGapMs : resumeMs };
}

function mergeCues(track: Track, edit: EditOf<'mergeCues'>): Changed {
  const { cueAt, wordAt } = lookUp(track);
  const places: number[] = [];
  for (const id of edit.cueIds) {
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
  const run = settleTimes(track.words.slice(from, to), startMs, endMs);
  const shown = run.filter((word) => word.shown);
  const seams = cues.slice(1).flatMap((cue) => shownWords(track, cue)[0]?.id ?? []);
  const lineStarts = [...new Set([...cues.flatMap((cue) => cue.lineStarts), ...seams])].filter(
    (id) => shown.findIndex((word) => word.id === id) > 0
  );
  const order = new Map(run.map((word, at) => [word.id, at]));
  lineStarts.sort((a, b) => order.get(a)! - order.get(b)!);
  const merged: Cue = {
    ...cues[0]!,
    startMs,
    endMs,
    wordIds: run.map((word) => word.id),
    lineStarts: lineStarts.length < track.rules.maxLines ? lineStarts : breakIntoLines(shown, track),
    locked: cues.some((cue) => cue.locked),
    bookmark: cues.some((cue) => cue.bookmark),
    note: cues
      .map((cue) => cue.note)
      .filter((note) => note !== '')
      .join('\n'),
    sourceCueIds: [...new Set(cues.flatMap((cue) => cue.sourceCueIds))]
  };
  const words = to > from ? spliceWords(track, from, to - from, run) : track.words;
  const left = { ...track, words, cues: track.cues.toSpliced(places[0]!, places.length, merged) };
  return ok(arrange(left, left.cues));
}

function addCue(track: Track, edit: EditOf<'addCue'>): Changed {
  if (edit.newCueId === undefined || edit.newWordIds === undefined) return idsMissing(edit);
  if (edit.endMs <= edit.startMs) return endsBeforeStart(edit);
  const taken = findTaken(track, [edit.newCueId, ...edit.newWordIds]);
  if (taken !== undefined) return idTaken(taken);
  const written = rewriteLines(track, edit, [], { deleted: 'gone', room: edit });
  if (!written.ok) return written;
  const run = written.value;
  const cue = makeCue({
    id: edit.newCueId,
    startMs: edit.startMs,
    endMs: edit.endMs,
    wordIds: run.words.map((word) => word.id),
    lineStarts: run.lineStarts
  });
  const cues = [...track.cues, cue].sort(compareCues);
  const at = insertionPoint(track.words, cues, cues.indexOf(cue));
  // A cue drawn by hand begins a paragraph of its own.
  const words = run.words.map((word, index) => (index === 0 ? { ...word, startsParagraph: true } : word));
  return ok({ ...track, words: spliceWords(track, at, 0, settleTimes(words, cue.startMs, cue.endMs)), cues });
}

function removeCue(track: Track, edit: EditOf<'removeCue'>): Changed {
  const { cueAt, wordAt } = lookUp(track);
  const at = cueAt.get(edit.cueId);
  if (at === undefined) return unknownCue(edit.cueId);
  const cue = track.cues[at]!;
  const from = cue.wordIds.length === 0 ? 0 : wordAt.get(cue.wordIds[0]!)!;
  const left = track.words
    .slice(from, from + cue.wordIds.length)
    .filter((word) => word.timing !== 'estimated')
    .map((word) => (word.shown ? { ...word, shown: false } : word));
  return ok({ ...track, words: spliceWords(track, from, cue.wordIds.length, left), cues: track.cues.toSpliced(at, 1) });
}

type Piece = EditOf<'retimePieces'>['pieces'][number];

function retime(track: Track, pieces: readonly Piece[]): Changed {
  const unsorted = pieces.findIndex(
    (piece, at) => piece.toMs <= piece.fromMs || piece.fromMs < (pieces[at - 1]?.toMs ?? 0)
  );
  if (pieces.length > 1 && unsorted >= 0)
    return problem(
      'bad_times',
      `Piece ${unsorted + 1} ends before it starts, or starts before the one ahead of it ends.`
    );
  const { findCueOf } = lookUp(track);
  const pieceAt = (startMs: number): Piece | undefined =>
    pieces.find(({ fromMs, toMs }) => startMs >= fromMs && startMs < toMs);
  const map = (ms: number, { speed, shiftMs }: Piece): number => Math.max(0, Math.round(ms * speed + shiftMs));
  const pieceOf = (cue: Cue): Piece | undefined => (cue.locked ? undefined : pieceAt(cue.startMs));
  const words = track.words.map((word) => {
    const cue = findCueOf(word.id);
    const piece = cue === undefined ? pieceAt(word.startMs) : pieceOf(cue);
    return piece === undefined ? word : { ...word, startMs: map(word.startMs, piece), endMs: map(word.endMs, piece) };
  });
  // A cue that is pushed out before the start keeps one millisecond, so that it stays to be seen and mended.
  const cues = track.cues.map((cue) => {
    const piece = pieceOf(cue);
    if (piece === undefined) return cue;
    const startMs = map(cue.startMs, piece);
    return { ...cue, startMs, endMs: Math.max(map(cue.endMs, piece), startMs + 1) };
  });
  return ok(arrange({ ...track, words }, cues));
}

function setCues(track: Track, edit: EditOf<'setCues'>): Changed {
  const { wordAt, findWord } = lookUp(track);
  const words = new Map<string, Word>();
  for (const cue of edit.cues) {
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
  for (const { id } of edit.cues) {
    if (ids.has(id)) return idTaken(id);
    ids.add(id);
  }
  const settled = {
    ...track,
    rules: edit.rules,
    cues: edit.cues,
    words: track.words.map((word) => words.get(word.id) ?? word)
  };
  return ok(arrange(settled, edit.cues));
}

function addHeard(track: Track, edit: EditOf<'addHeard'>): Changed {
  const newCues = edit.parts.flatMap(({ cue }) => cue ?? []);
  const taken = findTaken(track, [
    ...newCues.map((cue) => cue.id),
    ...edit.parts.flatMap(({ words }) => words.map((word) => word.id))
  ]);
  if (taken !== undefined) return idTaken(taken);
  const known = new Set(track.speakers.map((speaker) => speaker.id));
  const speakers = [...track.speakers, ...edit.speakers.filter((speaker) => !known.has(speaker.id))];
  const cues = [...track.cues, ...newCues].sort(compareCues);
  let { words } = track;
  // From the last one on: each stands ahead of the words of the cue behind it.
  for (const { cue, words: own } of [...edit.parts].reverse()) {
    const before = cue === null ? cues.findLastIndex((other) => other.startMs <= own[0]!.startMs) : cues.indexOf(cue);
    words = splice(words, insertionPoint(words, cues, before), 0, own);
  }
  const added = { ...track, words, cues, speakers };
  return ok(arrange(added, cues));
}

function takeHearing(track: Track, edit: EditOf<'takeHearing'>): Changed {
  const { findWord, findCueOf, cueAt } = lookUp(track);
  const from = findRun(track, edit.wordIds);
  if (!from.ok) return from;
  const isOld = new Set(edit.wordIds);
  const taken = findTaken(
    track,
    edit.words.map((word) => word.id).filter((id) => !isOld.has(id))
  );
  if (taken !== undefined) return idTaken(taken);
  const put = edit.words.map((word) => (isOld.has(word.id) ? findWord(word.id)! : word));
  const touched = [...new Set(edit.wordIds.map((id) => findCueOf(id)).filter((cue) => cue !== undefined))];
  // Each word goes to the cue it is heard in, none to an earlier one than the word before it.
  const runs = new Map<string, Word[]>(touched.map((cue) => [cue.id, []]));
  let cueStep = 0;
  for (const word of put) {
    const own = isOld.has(word.id) ? touched.indexOf(findCueOf(word.id)!) : -1;
    while (cueStep + 1 < touched.length && (own > cueStep || touched[cueStep + 1]!.startMs <= word.startMs)) cueStep++;
    const cue = touched[cueStep];
    if (cue !== undefined) runs.get(cue.id)!.push(word);
  }
  let words = spliceWords(track, from.value, edit.wordIds.length, put);
  const at = new Map(words.map((word) => [word.id, word]));
  let { cues } = track;
  const gone: string[] = [];
  for (const cue of touched) {
    const first = cue.wordIds.findIndex((id) => isOld.has(id));
    const count = cue.wordIds.filter((id) => isOld.has(id)).length;
    const own = runs.get(cue.id)!.map((word) => word.id);
    const wordIds = splice(cue.wordIds, first, count, own);
    if (wordIds.length === 0) gone.push(cue.id);
    const shown = wordIds.map((id) => at.get(id)!).filter((word) => word.shown);
    const lineStarts = cue.locked ? keptLineStarts({ ...cue, wordIds }, shown) : breakIntoLines(shown, track);
    const next = { ...cue, wordIds, lineStarts };
    cues = cues.with(cueAt.get(cue.id)!, next);
    words = settleCue(words, next, settleWritten);
  }
  return ok({ ...track, words, cues: gone.length === 0 ? cues : cues.filter((cue) => !gone.includes(cue.id)) });
}

/** The place of the first of words that follow one another. */
function findRun(track: Track, ids: readonly string[]): Result<number, EditProblem> {
  const { wordAt } = lookUp(track);
  const from = wordAt.get(ids[0]!);
  for (const [step, id] of ids.entries()) {
    const at = wordAt.get(id);
    if (at === undefined) return unknownWord(id);
    if (at !== from! + step)
      return problem('not_contiguous', `The word ${id} does not follow the one before it in the list.`);
  }
  return ok(from!);
}

function restore(track: Track, edit: EditOf<'restore'>): Changed {
  const words = edit.words && placed(track.words, edit.words);
  const cues = edit.cues && placed(track.cues, edit.cues);
  if (words === null || cues === null) {
    return problem('does_not_fit', 'What is to be put back does not fit the track as it is now.');
  }
  return ok({
    ...track,
    ...(edit.fields as Partial<Track>),
    words: words ? splice(track.words, words.at, words.removeIds.length, words.put) : track.words,
    cues: cues ? splice(track.cues, cues.at, cues.removeIds.length, cues.put) : track.cues
  });
}

/** The stretch with the place where it fits now; `null` where it does not. */
function placed<
  P extends { readonly at: number; readonly afterId?: string | null | undefined; readonly removeIds: readonly string[] }
>(items: readonly { readonly id: string }[], part: P): P | null {
  const isMoved = part.afterId !== undefined && (items[part.at - 1]?.id ?? null) !== part.afterId;
  const at = isMoved ? items.findIndex((item) => item.id === part.afterId) + 1 : part.at;
  return part.removeIds.every((id, step) => items[at + step]?.id === id) ? { ...part, at } : null;
}

const FIELDS = ['speakers', 'look', 'rules', 'title'] as const;

function inverseOf(before: Track, after: Track): EditOf<'restore'> {
  const words = changedStretch(before.words, after.words);
  const cues = changedStretch(before.cues, after.cues);
  const fields = Object.fromEntries(
    FIELDS.filter((field) => JSON.stringify(before[field]) !== JSON.stringify(after[field])).map((field) => [
      field,
      before[field]
    ])
  );
  return { type: 'restore', ...(words && { words }), ...(cues && { cues }), fields };
}

/** What stands between the head and the tail that both lists share. */
function changedStretch<T extends { readonly id: string }>(
  before: readonly T[],
  after: readonly T[]
): { at: number; afterId: string | null; removeIds: string[]; put: T[] } | undefined {
  if (before === after) return undefined;
  let at = 0;
  while (at < before.length && at < after.length && before[at] === after[at]) at++;
  let tail = 0;
  while (
    tail < before.length - at &&
    tail < after.length - at &&
    before[before.length - 1 - tail] === after[after.length - 1 - tail]
  )
    tail++;
  if (at + tail === before.length && at + tail === after.length) return undefined;
  return {
    at,
    afterId: before[at - 1]?.id ?? null,
    removeIds: after.slice(at, after.length - tail).map((item) => item.id),
    put: before.slice(at, before.length - tail)
  };
}
