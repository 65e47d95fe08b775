/** Title, look and rules of a track, and what takes back something that was done to it. */
import { z } from 'zod';
import { ok } from '../result';
import { applyChanges } from '../changes';
import { findBrokenInvariant, lookSchema, rulesSchema, trackChangesSchema, trackSchema } from '../track';
import { defineCommand, problem } from './command';

const setLook = defineCommand({
  schema: z.object({ type: z.literal('setLook'), look: lookSchema }),
  label: 'change the look',
  resolve: (track, { look }) => ok({ ...track, look })
});

const setRules = defineCommand({
  schema: z.object({ type: z.literal('setRules'), rules: rulesSchema }),
  label: 'change the rules',
  resolve: (track, { rules }) => ok({ ...track, rules })
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
  resolve(track, { changes }) {
    const applied = applyChanges(track, changes);
    if (!applied.ok) return problem('does_not_fit', applied.problem.message);
    const broken = findBrokenInvariant(applied.value.document, track);
    return broken === null
      ? ok(applied.value.document)
      : problem('does_not_fit', `It does not fit any more: ${broken}.`);
  }
});

export const trackCommands = [setLook, setRules, setNames, setState, setTitle, takeBack] as const;
