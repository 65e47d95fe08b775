/**
 * What somebody asks of a track, as plain data, and how each kind is defined: its schema, its name in undo and redo, the
 * ids it mints, and what it makes of a track. Resolving may choose (break lines, segment, pair); it happens once, and
 * what came of it is kept as changes.
 */
import type { CueId } from '../id';
import type { z } from 'zod';
import { fail, type Result } from '../result';
import { lookUp, type Cue, type Track, type Word } from '../track';

export type CommandProblemCode =
  | 'unknown_word'
  | 'unknown_cue'
  | 'unknown_speaker'
  | 'not_contiguous'
  | 'not_adjacent'
  | 'bad_times'
  | 'empty_text'
  | 'word_has_space'
  | 'first_word'
  | 'other_speaker'
  | 'does_not_fit'
  | 'id_taken'
  | 'ids_missing'
  | 'too_many';

/** Why a command cannot be done: to what, and what to do. */
export interface CommandProblem {
  readonly code: CommandProblemCode;
  readonly message: string;
}

export type Resolution = Result<Track, CommandProblem>;

type CommandSchema = z.ZodObject<{ readonly type: z.ZodLiteral<string> } & z.ZodRawShape>;

/** Mints ids, a new one at each call, and knows the time of day in milliseconds since 1970. */
export interface Minting {
  readonly mint: () => string;
  readonly atMs: number;
}

export interface CommandDefinition<S extends CommandSchema = CommandSchema> {
  readonly schema: S;
  /** What an entry of the log is called in undo and redo. */
  readonly label: string;
  /** The command with every id and time that its caller left out. */
  readonly complete?: (track: Track, command: Readonly<z.infer<S>>, minting: Minting) => Readonly<z.infer<S>>;
  /** The new ids in the command; without `isKnown`, all ids that it brings along. */
  readonly newIds?: (command: Readonly<z.infer<S>>, isKnown?: (cueId: CueId) => boolean) => readonly string[];
  /** Whether it says itself how far rows of a translation are; else those whose words it changes are in hand. */
  readonly setsRowStates?: true;
  /** The track with the command done. The given one stays as it is, and so does what the command does not touch. */
  readonly resolve: (track: Track, command: Readonly<z.infer<S>>) => Resolution;
}

export const defineCommand = <S extends CommandSchema>(definition: CommandDefinition<S>): CommandDefinition<S> =>
  definition;

export const problem = (code: CommandProblemCode, message: string): Result<never, CommandProblem> =>
  fail({ code, message });
export const unknownWord = (id: string) => problem('unknown_word', `There is no word ${id} in this track.`);
export const unknownCue = (id: string) => problem('unknown_cue', `There is no cue ${id} in this track.`);
export const unknownSpeaker = (id: string) => problem('unknown_speaker', `There is no speaker ${id} in this track.`);
export const idTaken = (id: string) => problem('id_taken', `The id ${id} is in use in this track; mint another.`);
export const idsMissing = ({ type }: { readonly type: string }) =>
  problem('ids_missing', `The command ${type} lacks ids for what it creates.`);
export const endsBeforeStart = ({ startMs, endMs }: { readonly startMs: number; readonly endMs: number }) =>
  problem('bad_times', `A cue from ${startMs} ms to ${endMs} ms does not end after its start.`);
export const timesMissing = (times: readonly unknown[], tokens: readonly unknown[]) =>
  problem('bad_times', `There are ${times.length} times for ${tokens.length} words: one each, or none at all.`);

export const hasSpeaker = ({ speakers }: Track, id: string): boolean => speakers.some((speaker) => speaker.id === id);

/** The first id that the track already has, or that is given twice; `undefined` if there is none. */
export function findTaken(track: Track, ids: readonly string[]): string | undefined {
  const { wordAt, cueAt } = lookUp(track);
  const given = new Set<string>();
  return ids.find(
    (id) => wordAt.get(id) !== undefined || cueAt.get(id) !== undefined || given.size === given.add(id).size
  );
}

/** The index of the first of the words, which must be neighbours. */
export function findRun(track: Track, ids: readonly string[]): Result<number, CommandProblem> {
  const { wordAt } = lookUp(track);
  const from = wordAt.get(ids[0]!);
  for (const [step, id] of ids.entries()) {
    const at = wordAt.get(id);
    if (at === undefined) return unknownWord(id);
    if (at !== from! + step)
      return problem('not_contiguous', `The word ${id} does not follow the one before it in the list.`);
  }
  return { ok: true, value: from! };
}

export function changeWords(track: Track, ids: readonly string[], map: (word: Word) => Word): Resolution {
  const { wordAt } = lookUp(track);
  const words = [...track.words];
  for (const id of ids) {
    const at = wordAt.get(id);
    if (at === undefined) return unknownWord(id);
    words[at] = map(words[at]!);
  }
  return { ok: true, value: { ...track, words } };
}

export function changeCue(track: Track, id: string, map: (cue: Cue) => Cue): Resolution {
  const at = lookUp(track).cueAt.get(id);
  if (at === undefined) return unknownCue(id);
  return { ok: true, value: { ...track, cues: track.cues.with(at, map(track.cues[at]!)) } };
}
