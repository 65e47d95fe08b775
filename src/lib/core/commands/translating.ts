/** Rows of a translation: written by hand or drafted, and how far they are. */
import { z } from 'zod';
import { cueIdSchema, idSchema, type WordId, asWordId, type CueId } from '../id';
import { ok } from '../result';
import { lookUp, tokenize, translationSchema, type Cue, type Track, type Word } from '../track';
import { insertionPoint } from './arrange';
import { defineCommand, findTaken, hasSpeaker, idsMissing, idTaken, unknownCue } from './command';
import { atMs, lines, MOST_WORDS, newWordIds } from './fields';
import { lineTokens, rewriteRun, settleTimes } from './rewrite';

/** How sure a machine is of a word that it did not know. */
const UNKNOWN = 0;

const sourceCueIds = z.array(cueIdSchema).max(1000).readonly().optional();

const writeRows = defineCommand({
  schema: z.object({
    type: z.literal('writeRows'),
    cues: z
      .array(
        z
          .object({
            cueId: cueIdSchema,
            lines,
            translation: translationSchema,
            /** Left out, it stays what it was. */
            sourceCueIds,
            /** Who says words where none stood. */
            speakerId: idSchema.nullable().optional(),
            /** Of its words, counted over the lines, those that a machine did not know. */
            doubts: z.array(z.int().min(0)).max(MOST_WORDS).readonly().optional()
          })
          .readonly()
      )
      .min(1)
      .max(MOST_WORDS)
      .readonly(),
    newWordIds,
    atMs
  }),
  label: 'translate',
  setsRowStates: true,
  complete: (track, command, { mint, atMs: nowMs }) => ({
    ...command,
    atMs: command.atMs ?? nowMs,
    newWordIds:
      command.newWordIds ??
      command.cues.flatMap((cue) =>
        cue.lines.flatMap((line) => tokenize(line, track.language).map(() => asWordId(mint())))
      )
  }),
  newIds: (command) => command.newWordIds ?? [],
  resolve(track, command) {
    const { newWordIds: ids = [], atMs: writtenAtMs = 0 } = command;
    const taken = findTaken(track, ids);
    if (taken !== undefined) return idTaken(taken);
    const { cueAt, wordAt } = lookUp(track);
    const rows = new Map(command.cues.map((row) => [row.cueId, row]));
    const unknown = command.cues.find(({ cueId }) => cueAt.get(cueId) === undefined);
    if (unknown !== undefined) return unknownCue(unknown.cueId);
    const cues = [...track.cues];
    const runs: { readonly from: number; readonly count: number; readonly words: readonly Word[] }[] = [];
    let idsUsed = 0;
    let from = 0;
    for (const [at, cue] of track.cues.entries()) {
      const [first] = cue.wordIds;
      if (first !== undefined) from = wordAt.get(first)!;
      const row = rows.get(cue.id);
      const count = cue.wordIds.length;
      if (row !== undefined) {
        const old = track.words.slice(from, from + count);
        const written = writeRow(track, { cue, old, row }, { ids, idsUsed, atMs: writtenAtMs });
        if (written === null) return idsMissing(command);
        idsUsed += written.idsUsed;
        cues[at] = written.cue;
        // Words of an empty cue stand before those of the next.
        runs.push({
          from: first === undefined ? insertionPoint(track.words, track.cues, at) : from,
          count,
          words: written.words
        });
      }
    }
    return ok({ ...track, cues, words: spliceRuns(track.words, runs) });
  }
});

/** The words with runs of them replaced, which stand in order. */
function spliceRuns(
  words: readonly Word[],
  runs: readonly { readonly from: number; readonly count: number; readonly words: readonly Word[] }[]
): readonly Word[] {
  const spliced: Word[] = [];
  let done = 0;
  for (const run of runs) {
    for (; done < run.from; done++) spliced.push(words[done]!);
    for (const word of run.words) spliced.push(word);
    done += run.count;
  }
  for (; done < words.length; done++) spliced.push(words[done]!);
  return spliced;
}

type RowText = z.infer<typeof writeRows.schema>['cues'][number];

/** `null` where the ids are too few. */
function writeRow(
  track: Track,
  { cue, old, row }: { readonly cue: Cue; readonly old: readonly Word[]; readonly row: RowText },
  { ids, idsUsed, atMs }: { readonly ids: readonly WordId[]; readonly idsUsed: number; readonly atMs: number }
): { readonly cue: Cue; readonly words: readonly Word[]; readonly idsUsed: number } | null {
  const tokens = row.lines.map((line) => lineTokens(line, track.language)).filter((line) => line.length > 0);
  const written = tokens.flat();
  const newIds = ids.slice(idsUsed, idsUsed + written.length);
  const run = rewriteRun(old, written, { newIds, atMs, deleted: 'gone', room: cue });
  if (run === null) return null;
  const isDrafted = row.translation.state === 'machine';
  const doubts = new Set(row.doubts);
  const speakerId = row.speakerId ?? null;
  const speaks = old.length === 0 && speakerId !== null && hasSpeaker(track, speakerId);
  const words = run.words.map((word, place): Word => ({
    ...word,
    ...(speaks && { speakerId }),
    ...(isDrafted && { correctedAt: null, confidence: doubts.has(place) ? UNKNOWN : null })
  }));
  const lineStarts: WordId[] = [];
  let token = 0;
  for (const line of tokens) {
    if (token > 0) lineStarts.push(run.tokenIds[token]!);
    token += line.length;
  }
  const known = new Set(old.map(({ id }) => id));
  return {
    cue: {
      ...cue,
      wordIds: words.map(({ id }) => id),
      lineStarts,
      sourceCueIds: row.sourceCueIds ?? cue.sourceCueIds,
      translation: row.translation
    },
    words: settleTimes(words, cue.startMs, cue.endMs),
    idsUsed: words.filter(({ id }) => !known.has(id)).length
  };
}

const markRows = defineCommand({
  schema: z.object({
    type: z.literal('markRows'),
    cues: z
      .array(z.object({ cueId: cueIdSchema, translation: translationSchema, sourceCueIds }).readonly())
      .min(1)
      .max(MOST_WORDS)
      .readonly()
  }),
  label: 'mark rows',
  setsRowStates: true,
  resolve(track, command) {
    const { cueAt } = lookUp(track);
    const cues = [...track.cues];
    for (const { cueId, translation, sourceCueIds: ids } of command.cues) {
      const at = cueAt.get(cueId);
      if (at === undefined) return unknownCue(cueId);
      cues[at] = { ...cues[at]!, translation, sourceCueIds: ids ?? cues[at]!.sourceCueIds };
    }
    return ok({ ...track, cues });
  }
});

/**
 * What a machine drafted and a command has changed by hand is mine from then on. Words that only went to another cue are
 * not changed.
 */
export function takeInHand(before: Track, after: Track): Track {
  if (after.sourceTrackId === null || before.words === after.words) return after;
  let head = 0;
  const shorter = Math.min(before.words.length, after.words.length);
  while (head < shorter && before.words[head] === after.words[head]) head++;
  let tail = 0;
  while (tail < shorter - head && before.words.at(-1 - tail) === after.words.at(-1 - tail)) tail++;
  const old = new Map(before.words.slice(head, before.words.length - tail).map((word) => [word.id, word]));
  const now = after.words.slice(head, after.words.length - tail);
  const touched = new Set<CueId>();
  const { findCueOf, cueAt } = lookUp(after);
  for (const word of now) {
    const was = old.get(word.id);
    old.delete(word.id);
    const cue = was !== undefined && saysTheSame(was, word) ? undefined : findCueOf(word.id);
    if (cue !== undefined) touched.add(cue.id);
  }
  for (const { id } of old.values()) {
    const cue = lookUp(before).findCueOf(id);
    if (cue !== undefined) touched.add(cue.id);
  }
  let { cues } = after;
  for (const id of touched) {
    const at = cueAt.get(id);
    const cue = at === undefined ? undefined : cues[at];
    if (cue?.translation?.state !== 'machine') continue;
    cues = cues.with(at!, { ...cue, translation: { ...cue.translation, state: 'mine' } });
  }
  return cues === after.cues ? after : { ...after, cues };
}

const saysTheSame = (one: Word, other: Word): boolean =>
  one.text === other.text && one.shown === other.shown && JSON.stringify(one.marks) === JSON.stringify(other.marks);

export const translatingCommands = [writeRows, markRows] as const;
