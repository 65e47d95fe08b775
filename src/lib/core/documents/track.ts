import { applyChanges, changesBetween } from '../changes';
import { completeCommand, labelCommands, newIdsOf, resolveCommands, type Command } from '../commands';
import { ok } from '../result';
import { openChanges, openCommands, openTrack, openUnsent, raiseLog, TRACK_FORM } from '../stored';
import { lookUp, trackShape, type Track, type TrackChange } from '../track';
import type { DocumentKind } from './kind';

export const trackKind: DocumentKind<Track, Command, TrackChange> = {
  name: 'track',
  form: TRACK_FORM,
  open: openTrack,
  openCommands,
  openChanges,
  openUnsent,
  raise: (draft, entries, snapshots) => {
    const { track, ...rest } = raiseLog(
      draft,
      entries.map(({ revision, raw }) => ({ revision, edits: raw })),
      snapshots
    );
    return { document: track, ...rest };
  },
  complete: completeCommand,
  resolve: (document, commands) => {
    const done = resolveCommands(document, commands);
    return done.ok
      ? ok({ document: done.value.track, changes: done.value.changes, inverse: done.value.inverse })
      : done;
  },
  apply: (document, changes) => {
    const done = applyChanges(document, changes);
    return done.ok ? ok({ ...done.value, changes }) : done;
  },
  between: (before, after) => changesBetween(before, after, trackShape),
  label: labelCommands,
  newIds: (document, command) => {
    const { cueAt } = lookUp(document);
    return newIdsOf(command, (cueId) => cueAt.get(cueId) !== undefined);
  },
  sizeOf: ({ words, cues }) => words.length + cues.length,
  hasId: (document, id) => {
    const { wordAt, cueAt } = lookUp(document);
    const isSpeaker = document.speakers.some((speaker) => speaker.id === id);
    return isSpeaker || wordAt.get(id) !== undefined || cueAt.get(id) !== undefined;
  },
  takenIds: (changes) => {
    const stretches = changes.flatMap(
      (change): readonly { take: readonly string[]; put: readonly { id: string }[] }[] =>
        change.type === 'splice' ? change.stretches : []
    );
    const put = new Set(stretches.flatMap((stretch) => stretch.put.map(({ id }) => id)));
    return stretches.flatMap(({ take }) => take.filter((id) => !put.has(id)));
  }
};
