/** Setting when cues are shown: by the hand, many at once, or by a line through all of them. */
import { z } from 'zod';
import { cueIdSchema } from '../id';
import { ok } from '../result';
import { MOST_MS, type Ms, msSchema, wholeMs } from '../time';
import { compareCues, lookUp, type Cue, type Track, type Word } from '../track';
import { arrange, settleCue } from './arrange';
import { defineCommand, endsBeforeStart, problem, unknownCue, type Resolution } from './command';
import { MOST_WORDS } from './fields';
import { settleTimes } from './rewrite';

const setCueTimes = defineCommand({
  schema: z.object({ type: z.literal('setCueTimes'), cueId: cueIdSchema, startMs: msSchema, endMs: msSchema }),
  label: 'time a cue',
  resolve(track, command) {
    const at = lookUp(track).cueAt.get(command.cueId);
    if (at === undefined) return unknownCue(command.cueId);
    if (command.endMs <= command.startMs) return endsBeforeStart(command);
    const cue = { ...track.cues[at]!, startMs: command.startMs, endMs: command.endMs };
    const cues = track.cues.with(at, cue);
    const [before, after] = [cues[at - 1], cues[at + 1]];
    const keepsItsPlace =
      (before === undefined || compareCues(before, cue) < 0) && (after === undefined || compareCues(cue, after) < 0);
    const moved = keepsItsPlace ? { ...track, cues } : arrange(track, cues);
    const near = lookUp(moved).wordAt.get(cue.wordIds[0] ?? '');
    return ok({ ...moved, words: settleCue(moved.words, cue, settleTimes, near) });
  }
});

/** The same for many cues at once: moved together, eased, laid on their words. */
const timeCues = defineCommand({
  schema: z.object({
    type: z.literal('timeCues'),
    times: z
      .array(z.object({ cueId: cueIdSchema, startMs: msSchema, endMs: msSchema }).readonly())
      .min(1)
      .max(MOST_WORDS)
      .readonly()
  }),
  label: 'time cues',
  resolve(track, command) {
    const { cueAt } = lookUp(track);
    const times = new Map<string, (typeof command.times)[number]>();
    for (const one of command.times) {
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
});

const line = {
  shiftMs: z.int().min(-MOST_MS).max(MOST_MS),
  speed: z.number().min(0.1).max(10)
};

/** new = old × speed + shift, words with their cues; the range holds the cues that start in `fromMs <= t < toMs`. */
const retime = defineCommand({
  schema: z.object({ type: z.literal('retime'), ...line, fromMs: msSchema.optional(), toMs: msSchema.optional() }),
  label: 'shift and stretch',
  resolve: (track, { fromMs = 0, toMs = Number.POSITIVE_INFINITY, shiftMs, speed }) =>
    moveAlong(track, [{ fromMs, toMs, shiftMs, speed }])
});

/**
 * The same for several pieces at once. A cue belongs to the piece it starts in before anything moves; pieces are in
 * order and do not overlap.
 */
const retimePieces = defineCommand({
  schema: z.object({
    type: z.literal('retimePieces'),
    pieces: z
      .array(z.object({ ...line, fromMs: msSchema, toMs: msSchema }).readonly())
      .min(1)
      .max(1000)
      .readonly()
  }),
  label: 'shift and stretch',
  resolve: (track, { pieces }) => moveAlong(track, pieces)
});

interface Piece {
  readonly fromMs: number;
  readonly toMs: number;
  readonly shiftMs: number;
  readonly speed: number;
}

function moveAlong(track: Track, pieces: readonly Piece[]): Resolution {
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
  const map = (ms: number, { speed, shiftMs }: Piece): Ms => wholeMs(Math.max(0, ms * speed + shiftMs));
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
    return { ...cue, startMs, endMs: wholeMs(Math.max(map(cue.endMs, piece), startMs + 1)) };
  });
  const latestMs = [...words, ...cues].reduce<number>((latest, { endMs }) => Math.max(latest, endMs), 0);
  if (latestMs > MOST_MS)
    return problem(
      'bad_times',
      `That would end at ${Math.round(latestMs / 3_600_000)} hours; times go to ${MOST_MS / 3_600_000} hours. Shift by less.`
    );
  return ok(arrange({ ...track, words }, cues));
}

export const timingCommands = [setCueTimes, timeCues, retime, retimePieces] as const;
