/** Correcting words, and saying who speaks them. */
import { toSpan } from '../time';
import { z } from 'zod';
import { asWordId, idSchema, type WordId, wordIdSchema } from '../id';
import { ok } from '../result';
import { lookUp, makeSpeaker, type Track, type Word } from '../track';
import { keptLineStarts, settleCue, splice, spliceWords } from './arrange';
import {
  changeWords,
  defineCommand,
  findRun,
  findTaken,
  hasSpeaker,
  idsMissing,
  idTaken,
  problem,
  timesMissing,
  unknownSpeaker,
  unknownWord
} from './command';
import { atMs, newWordIds, text, times, wordIds } from './fields';
import { retype, rewriteRun, settleWritten, textTokens, type Room } from './rewrite';

const setWordText = defineCommand({
  schema: z.object({ type: z.literal('setWordText'), wordId: wordIdSchema, text, atMs }),
  label: 'correct a word',
  complete: (_, command, minting) => ({ ...command, atMs: command.atMs ?? minting.atMs }),
  resolve(track, command) {
    const { wordAt } = lookUp(track);
    const at = wordAt.get(command.wordId);
    if (at === undefined) return unknownWord(command.wordId);
    const text = command.text.trim().replace(/\s+/g, (space) => (space.includes('\n') ? ' ' : space));
    if (text === '') return problem('empty_text', 'A word cannot be empty; remove it instead.');
    const typed = retype(track.words[at]!, text, command.atMs ?? 0);
    if (typed.kind === 'speech' && /\s/.test(text)) {
      return problem('word_has_space', `“${text}” is more than one word; replace the words instead.`);
    }
    return ok({ ...track, words: track.words.with(at, typed) });
  }
});

/** A contiguous run of words is written anew. A line break in the text begins a paragraph; no text removes the words. */
const replaceWords = defineCommand({
  schema: z.object({ type: z.literal('replaceWords'), wordIds, text, times, newWordIds, atMs }),
  label: 'correct the text',
  complete: (track, command, { mint, atMs: nowMs }) => ({
    ...command,
    atMs: command.atMs ?? nowMs,
    newWordIds: command.newWordIds ?? textTokens(command.text, track.language).map(() => asWordId(mint()))
  }),
  newIds: (command) => command.newWordIds ?? [],
  resolve(track, command) {
    const { findWord, findCueOf, cueAt } = lookUp(track);
    const place = findRun(track, command.wordIds);
    if (!place.ok) return place;
    const from = place.value;
    const taken = findTaken(track, command.newWordIds ?? []);
    if (taken !== undefined) return idTaken(taken);
    const old = track.words.slice(from, from + command.wordIds.length);
    const tokens = textTokens(command.text, track.language, old[0]!.startsParagraph);
    if (command.times !== undefined && command.times.length !== tokens.length)
      return timesMissing(command.times, tokens);
    const run = rewriteRun(old, tokens, {
      newIds: command.newWordIds ?? [],
      times: command.times,
      atMs: command.atMs ?? 0,
      deleted: 'gone',
      room: roomAround(track, from, from + old.length)
    });
    if (run === null) return idsMissing(command);
    let words = spliceWords(track, from, old.length, run.words);

    // Each cue that held old words now holds the new ones that came of them; one left without any goes.
    const touched = new Set(old.map((word) => findCueOf(word.id)).filter((cue) => cue !== undefined));
    const inRun = new Set(command.wordIds);
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
});

/** The new word that stands where the old one with this id stood, or after it. */
function standIn(
  id: WordId,
  old: readonly Word[],
  run: { readonly words: readonly Word[]; readonly origins: readonly number[] }
): WordId | undefined {
  const at = old.findIndex((word) => word.id === id);
  return run.words.find((_, index) => at >= 0 && run.origins[index]! >= at)?.id;
}

/** Time between the neighbours of the words `from` to `to`. */
function roomAround(track: Track, from: number, to: number): Room {
  const startMs = track.words[from - 1]?.endMs ?? 0;
  return toSpan({ startMs, endMs: Math.max(startMs, track.words[to]?.startMs ?? startMs) });
}

const setWordsShown = defineCommand({
  schema: z.object({ type: z.literal('setWordsShown'), wordIds, shown: z.boolean() }),
  label: 'show or leave out words',
  resolve: (track, { wordIds: ids, shown }) =>
    changeWords(track, ids, (word) => (word.shown === shown ? word : { ...word, shown }))
});

const setParagraph = defineCommand({
  schema: z.object({ type: z.literal('setParagraph'), wordId: wordIdSchema, starts: z.boolean() }),
  label: 'set a paragraph',
  resolve: (track, { wordId, starts }) => changeWords(track, [wordId], (word) => ({ ...word, startsParagraph: starts }))
});

const setSpeaker = defineCommand({
  schema: z.object({ type: z.literal('setSpeaker'), wordIds, speakerId: idSchema.nullable() }),
  label: 'set the speaker',
  resolve(track, { wordIds: ids, speakerId }) {
    if (speakerId !== null && !hasSpeaker(track, speakerId)) return unknownSpeaker(speakerId);
    return changeWords(track, ids, (word) => ({ ...word, speakerId }));
  }
});

const addSpeaker = defineCommand({
  schema: z.object({
    type: z.literal('addSpeaker'),
    name: z.string().trim().min(1).max(200),
    newSpeakerId: idSchema.optional()
  }),
  label: 'add a speaker',
  complete: (_, command, { mint }) => ({ ...command, newSpeakerId: command.newSpeakerId ?? mint() }),
  newIds: ({ newSpeakerId }) => (newSpeakerId === undefined ? [] : [newSpeakerId]),
  resolve(track, command) {
    if (command.newSpeakerId === undefined) return idsMissing(command);
    if (hasSpeaker(track, command.newSpeakerId)) return idTaken(command.newSpeakerId);
    return ok({ ...track, speakers: [...track.speakers, makeSpeaker(command.newSpeakerId, command.name)] });
  }
});

const renameSpeaker = defineCommand({
  schema: z.object({
    type: z.literal('renameSpeaker'),
    speakerId: idSchema,
    name: z.string().trim().min(1).max(200)
  }),
  label: 'rename a speaker',
  resolve(track, { speakerId, name }) {
    if (!hasSpeaker(track, speakerId)) return unknownSpeaker(speakerId);
    return ok({
      ...track,
      speakers: track.speakers.map((speaker) => (speaker.id === speakerId ? { ...speaker, name } : speaker))
    });
  }
});

export const wordCommands = [
  setWordText,
  replaceWords,
  setWordsShown,
  setParagraph,
  setSpeaker,
  addSpeaker,
  renameSpeaker
] as const;
