/** What a hearing puts into a track. No caller may send these. */
import { z } from 'zod';
import { breakIntoLines } from '../cueing';
import { ok } from '../result';
import { compareCues, cueSchema, lookUp, speakerSchema, wordSchema, type Word } from '../track';
import { arrange, insertionPoint, keptLineStarts, settleCue, splice, spliceWords } from './arrange';
import { defineCommand, findRun, findTaken, idTaken } from './command';
import { MOST_WORDS, wordIds } from './fields';
import { settleWritten } from './rewrite';

/** What was heard meanwhile is put in where its time puts it: cues with the words in and beside them, or words alone. */
const addHeard = defineCommand({
  schema: z.object({
    type: z.literal('addHeard'),
    parts: z
      .array(z.object({ cue: cueSchema.nullable(), words: z.array(wordSchema).min(1).readonly() }).readonly())
      .min(1)
      .readonly(),
    speakers: z.array(speakerSchema).readonly()
  }),
  label: 'hear on',
  resolve(track, command) {
    const newCues = command.parts.flatMap(({ cue }) => cue ?? []);
    const taken = findTaken(track, [
      ...newCues.map((cue) => cue.id),
      ...command.parts.flatMap(({ words }) => words.map((word) => word.id))
    ]);
    if (taken !== undefined) return idTaken(taken);
    const known = new Set(track.speakers.map((speaker) => speaker.id));
    const speakers = [...track.speakers, ...command.speakers.filter((speaker) => !known.has(speaker.id))];
    const cues = [...track.cues, ...newCues].sort(compareCues);
    let { words } = track;
    // Goes backwards, because each part is put before the words of the cue that follows it.
    for (const { cue, words: own } of [...command.parts].reverse()) {
      const before = cue === null ? cues.findLastIndex((other) => other.startMs <= own[0]!.startMs) : cues.indexOf(cue);
      words = splice(words, insertionPoint(words, cues, before), 0, own);
    }
    const added = { ...track, words, cues, speakers };
    return ok(arrange(added, cues));
  }
});

/** A contiguous run of words gives way to what a new hearing heard there; of `words` those that stand in the run stay. */
const takeHearing = defineCommand({
  schema: z.object({
    type: z.literal('takeHearing'),
    wordIds,
    words: z.array(wordSchema).max(MOST_WORDS).readonly()
  }),
  label: 'take what was heard',
  resolve(track, command) {
    const { findWord, findCueOf, cueAt } = lookUp(track);
    const from = findRun(track, command.wordIds);
    if (!from.ok) return from;
    const isOld = new Set(command.wordIds);
    const taken = findTaken(
      track,
      command.words.map((word) => word.id).filter((id) => !isOld.has(id))
    );
    if (taken !== undefined) return idTaken(taken);
    const put = command.words.map((word) => (isOld.has(word.id) ? findWord(word.id)! : word));
    const touched = [...new Set(command.wordIds.map((id) => findCueOf(id)).filter((cue) => cue !== undefined))];
    // Each word goes to the cue in whose time it was heard, but never to an earlier cue than the word before it.
    const runs = new Map<string, Word[]>(touched.map((cue) => [cue.id, []]));
    let cueStep = 0;
    for (const word of put) {
      const own = isOld.has(word.id) ? touched.indexOf(findCueOf(word.id)!) : -1;
      while (cueStep + 1 < touched.length && (own > cueStep || touched[cueStep + 1]!.startMs <= word.startMs))
        cueStep++;
      const cue = touched[cueStep];
      if (cue !== undefined) runs.get(cue.id)!.push(word);
    }
    let words = spliceWords(track, from.value, command.wordIds.length, put);
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
});

export const hearingCommands = [addHeard, takeHearing] as const;
