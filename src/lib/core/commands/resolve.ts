import type { CueId } from '../id';
import { applyChanges, changesBetween } from '../changes';
import { ok, type Result } from '../result';
import { trackShape, type Track, type TrackChange } from '../track';
import { definitionOf, type Command } from './catalogue';
import type { CommandProblem, Minting } from './command';
import { takeInHand } from './translating';

/** A track with commands done, the changes they were resolved to, and those that take them back to the byte. */
export interface ResolvedCommands {
  readonly track: Track;
  readonly changes: readonly TrackChange[];
  readonly inverse: readonly TrackChange[];
}

/** The track as commands would leave it, without the changes that bring it there. */
export function tryCommands(track: Track, commands: readonly Command[]): Result<Track, CommandProblem> {
  let after = track;
  for (const command of commands) {
    const { resolve, setsRowStates } = definitionOf(command);
    const done = resolve(after, command);
    if (!done.ok) return done;
    after = setsRowStates === true ? done.value : takeInHand(after, done.value);
  }
  return ok(after);
}

/**
 * Resolves commands in order, each on what the ones before it left, to the changes they make together; or none of them.
 * The same commands on the same track give the same bytes wherever they are resolved.
 */
export function resolveCommands(track: Track, commands: readonly Command[]): Result<ResolvedCommands, CommandProblem> {
  const done = tryCommands(track, commands);
  if (!done.ok) return done;
  const after = done.value;
  const changes = changesBetween(track, after, trackShape);
  const applied = applyChanges(track, changes);
  if (!applied.ok) throw new Error(`changes do not fit the track they were found for: ${applied.problem.message}`);
  return ok({ track: applied.value.document, changes, inverse: applied.value.inverse });
}

/** The command with every id and time it needs. What the caller set stays. */
export function completeCommand<C extends Command>(track: Track, command: C, minting: Minting): C {
  // Safe, because a definition returns a command of its own type.
  return (definitionOf(command).complete?.(track, command, minting) ?? command) as C;
}

/**
 * The new ids in a command, none of which may have been used before; without `isKnown`, all ids that it brings along.
 */
export const newIdsOf = (command: Command, isKnown?: (cueId: CueId) => boolean): readonly string[] =>
  definitionOf(command).newIds?.(command, isKnown) ?? [];

/** What an entry of the log is called in undo and redo. */
export function labelCommands(commands: readonly Command[]): string {
  const labels = new Set(commands.map((command) => definitionOf(command).label));
  const [only] = labels;
  return labels.size === 1 && only !== undefined ? only : 'several changes';
}
