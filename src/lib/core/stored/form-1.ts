/**
 * The first form: an entry of the log held what was asked, to be done again at each opening, and its inverse as
 * `restore`s; cues held WebVTT's settings, tracks its header and blocks.
 */
import { z } from 'zod';
import { applyChanges, changesBetween } from '../changes';
import { commandSchema, resolveCommands, type Command } from '../commands';
import { placementFromSettings } from '../formats';
import { trackChangesSchema, trackShape, type Track, type TrackChange } from '../track';

const looseCue = z.looseObject({ settings: z.string().nullable().optional(), placement: z.string().nullable() });

function cue(raw: unknown): unknown {
  const { settings, ...rest } = looseCue.parse(raw);
  // What was placed by hand had no settings any more.
  if (settings === undefined) return rest;
  return settings === null
    ? { ...rest, carried: null }
    : { ...rest, placement: rest.placement ?? placementFromSettings(settings), carried: { format: 'vtt', settings } };
}

const looseTrack = z.looseObject({
  cues: z.array(z.unknown()),
  fileExtras: z.object({ vttHeader: z.string(), vttBlocks: z.array(z.string()) }).optional()
});

export function track(raw: unknown): unknown {
  const { fileExtras, ...rest } = looseTrack.parse(raw);
  const isBare = fileExtras === undefined || (fileExtras.vttHeader === '' && fileExtras.vttBlocks.length === 0);
  return {
    ...rest,
    cues: rest.cues.map(cue),
    carried: isBare ? null : { format: 'vtt', header: fileExtras.vttHeader, blocks: fileExtras.vttBlocks }
  };
}

const looseCommand = z.looseObject({
  type: z.string(),
  cues: z.unknown().optional(),
  parts: z.array(z.looseObject({ cue: z.unknown() })).optional()
});

/** What was asked; `restore`s, which nobody asked for, are left out. */
export function commands(raw: unknown): readonly unknown[] {
  return z
    .array(looseCommand)
    .parse(raw)
    .filter(({ type }) => type !== 'restore')
    .map((command) => ({
      ...command,
      ...(Array.isArray(command.cues) && { cues: command.cues.map(cue) }),
      ...(command.parts && {
        parts: command.parts.map((part) => ({ ...part, cue: part.cue === null ? null : cue(part.cue) }))
      })
    }));
}

const stretch = z.object({
  at: z.int(),
  afterId: z.string().nullable().optional(),
  removeIds: z.array(z.string()),
  put: z.array(z.unknown())
});
const restore = z.object({
  type: z.literal('restore'),
  words: stretch.optional(),
  cues: stretch.optional(),
  fields: z.record(z.string(), z.unknown())
});

function restored(now: Track, raw: unknown): readonly TrackChange[] {
  const { words, cues, fields } = restore.parse(raw);
  const splice = (list: 'words' | 'cues', part: z.infer<typeof stretch>, item: (one: unknown) => unknown) => ({
    type: 'splice',
    list,
    stretches: [
      {
        at: part.at,
        afterId: part.afterId === undefined ? (now[list][part.at - 1]?.id ?? null) : part.afterId,
        take: part.removeIds,
        put: part.put.map(item)
      }
    ]
  });
  return trackChangesSchema.parse([
    ...(words === undefined ? [] : [splice('words', words, (word) => word)]),
    ...(cues === undefined ? [] : [splice('cues', cues, cue)]),
    ...(Object.keys(fields).length === 0 ? [] : [{ type: 'fields', fields }])
  ]);
}

/** The changes that an entry's edits make of the track as it was then. Throws where they cannot be done on it. */
export function changes(before: Track, raw: unknown): readonly TrackChange[] {
  let now = before;
  for (const edit of z.array(looseCommand).parse(raw)) {
    if (edit.type === 'restore') {
      const done = applyChanges(now, restored(now, edit));
      if (!done.ok) throw new Error(done.problem.message);
      now = done.value.document;
    } else {
      const done = resolveCommands(
        now,
        commands([edit]).map((command): Command => commandSchema.parse(command))
      );
      if (!done.ok) throw new Error(done.problem.message);
      now = done.value.track;
    }
  }
  return changesBetween(before, now, trackShape);
}
