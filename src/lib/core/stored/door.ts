import { z } from 'zod';
import { applyChanges, changesBetween } from '../changes';
import { clientCommandSchema, commandSchema, type ClientCommand, type Command } from '../commands';
import { trackChangesSchema, trackSchema, trackShape, type Track, type TrackChange } from '../track';
import * as form1 from './form-1';

/** The form in which tracks, their logs and what waits to be sent are kept now. */
export const TRACK_FORM = 2;

/** Was kept by a newer version of the product than this one. */
const refuseNewer = (form: number): void => {
  if (form > TRACK_FORM)
    throw new Error(`kept by a newer version, in form ${form}: this one knows forms up to ${TRACK_FORM}`);
};

/** A track that was kept in any form. Throws where it cannot be read. */
export function openTrack(form: number, raw: unknown): Track {
  refuseNewer(form);
  return trackSchema.parse(form === 1 ? form1.track(raw) : raw);
}

/** What was asked, kept in any form, for people to read. Throws where it cannot be read. */
export function openCommands(form: number, raw: unknown): readonly Command[] {
  refuseNewer(form);
  return z.array(commandSchema).parse(form === 1 ? form1.commands(raw) : raw);
}

/** What waits to be sent, kept in any form. Throws where it cannot be read. */
export function openUnsent(form: number, raw: unknown): readonly ClientCommand[] {
  refuseNewer(form);
  return z
    .array(clientCommandSchema)
    .min(1)
    .parse(form === 1 ? form1.commands(raw) : raw);
}

/** Changes of the present form. Throws where they cannot be read. */
export const openChanges = (raw: unknown): readonly TrackChange[] => trackChangesSchema.parse(raw);

/** A log of the first form, entry by entry. */
export interface FormerEntry {
  readonly revision: number;
  readonly edits: unknown;
}

export interface RaisedEntry {
  readonly revision: number;
  readonly commands: readonly Command[];
  readonly changes: readonly TrackChange[];
  readonly inverse: readonly TrackChange[];
}

/**
 * Brings a log of the first form up, from its draft on. Snapshots taken on the way say what the track was, whatever its
 * edits make of it today. Ends ahead of the first entry that can be read no more: `problem` says why.
 */
export function raiseLog(
  draft: Track,
  entries: readonly FormerEntry[],
  snapshots: ReadonlyMap<number, Track>
): { readonly track: Track; readonly entries: readonly RaisedEntry[]; readonly problem: unknown } {
  const raised: RaisedEntry[] = [];
  let track = draft;
  try {
    for (const { revision, edits } of entries) {
      const snapshot = snapshots.get(revision);
      const changes =
        snapshot === undefined ? form1.changes(track, edits) : changesBetween(track, snapshot, trackShape);
      const applied = applyChanges(track, openChanges(changes));
      if (!applied.ok) throw new Error(applied.problem.message);
      const { inverse, document } = applied.value;
      raised.push({ revision, commands: openCommands(1, edits), changes, inverse });
      track = document;
    }
  } catch (problem) {
    return { track, entries: raised, problem };
  }
  return { track, entries: raised, problem: null };
}
