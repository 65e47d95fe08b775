/** Title, look and rules of a track, and what takes back something that was done to it. */
import { z } from 'zod';
import { ok } from '../result';
import { applyChanges, MOST_ITEMS } from '../changes';
import { cueIdSchema, idSchema } from '../id';
import {
  changeLook,
  changeOverrides,
  findBrokenInvariant,
  lookChangeSchema,
  keptSourceSchema,
  lookUp,
  rulesSchema,
  trackChangesSchema,
  trackSchema,
  sheetSchema
} from '../track';
import { defineCommand, hasSpeaker, problem, unknownCue, unknownSpeaker } from './command';

const setLook = defineCommand({
  schema: z.object({
    type: z.literal('setLook'),
    look: lookChangeSchema,
    /** The kept look that it is taken from; left out, it stays what it was. */
    from: keptSourceSchema.nullable().optional()
  }),
  label: 'change the look',
  resolve: (track, { look, from }) =>
    ok({ ...track, look: changeLook(track.look, look), lookFrom: from === undefined ? track.lookFrom : from })
});

const setSpeakerLook = defineCommand({
  schema: z.object({ type: z.literal('setSpeakerLook'), speakerId: idSchema, look: lookChangeSchema.nullable() }),
  label: 'change the look of a speaker',
  resolve(track, { speakerId, look }) {
    if (!hasSpeaker(track, speakerId)) return unknownSpeaker(speakerId);
    const speakers = track.speakers.map((speaker) =>
      speaker.id === speakerId
        ? { ...speaker, look: look === null ? null : changeOverrides(speaker.look, look) }
        : speaker
    );
    return ok({ ...track, speakers });
  }
});

/** Where a cue stands is kept apart from the rest of its look: files that are imported say it, too. */
const setCueLooks = defineCommand({
  schema: z.object({
    type: z.literal('setCueLooks'),
    cueIds: z.array(cueIdSchema).min(1).max(MOST_ITEMS).readonly(),
    look: lookChangeSchema.nullable()
  }),
  label: 'change the look of cues',
  resolve(track, { cueIds, look }) {
    const { cueAt } = lookUp(track);
    const cues = [...track.cues];
    const { placement, ...rest } = look ?? { placement: null };
    for (const id of cueIds) {
      const at = cueAt.get(id);
      if (at === undefined) return unknownCue(id);
      const cue = cues[at]!;
      cues[at] = {
        ...cue,
        ...(placement !== undefined && { placement, carried: null }),
        look: look === null ? null : changeOverrides(cue.look, rest)
      };
    }
    return ok({ ...track, cues });
  }
});

const setRules = defineCommand({
  schema: z.object({ type: z.literal('setRules'), rules: rulesSchema }),
  label: 'change the rules',
  resolve: (track, { rules }) => ok({ ...track, rules })
});

const setSheet = defineCommand({
  schema: z.object({
    type: z.literal('setSheet'),
    sheet: sheetSchema,
    /** The house's sheet that it is taken from; left out, it stays what it was. */
    from: keptSourceSchema.nullable().optional()
  }),
  label: 'change the sheet',
  resolve: (track, { sheet, from }) => ok({ ...track, sheet, sheetFrom: from === undefined ? track.sheetFrom : from })
});

const setTitle = defineCommand({
  schema: z.object({ type: z.literal('setTitle'), title: z.string().max(300) }),
  label: 'rename the track',
  resolve: (track, { title }) => ok({ ...track, title })
});

const setNames = defineCommand({
  schema: z.object({ type: z.literal('setNames'), names: trackSchema.unwrap().shape.names.unwrap() }),
  label: 'change the names',
  resolve: (track, { names }) => ok({ ...track, names })
});

/** What its makers say of it: still a draft, or ready to be handed over. */
const setState = defineCommand({
  schema: z.object({ type: z.literal('setState'), state: z.enum(['draft', 'ready']) }),
  label: 'change how far the track is',
  resolve: (track, { state }) => ok({ ...track, state })
});

/** The inverse of an earlier command's changes: what a command's opposite does right behind it. */
const takeBack = defineCommand({
  schema: z.object({ type: z.literal('takeBack'), changes: trackChangesSchema.readonly() }),
  label: 'take back a change',
  setsRowStates: true,
  resolve(track, { changes }) {
    const applied = applyChanges(track, changes);
    if (!applied.ok) return problem('does_not_fit', applied.problem.message);
    const broken = findBrokenInvariant(applied.value.document, track);
    return broken === null
      ? ok(applied.value.document)
      : problem('does_not_fit', `It does not fit any more: ${broken}.`);
  }
});

export const trackCommands = [
  setLook,
  setSpeakerLook,
  setCueLooks,
  setRules,
  setSheet,
  setNames,
  setState,
  setTitle,
  takeBack
] as const;
