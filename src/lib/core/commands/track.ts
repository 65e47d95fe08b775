/** Title, language, look and rules of a track. */
import { z } from 'zod';
import { ok } from '../result';
import { lookSchema, rulesSchema } from '../track';
import { defineCommand } from './command';

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

export const trackCommands = [setLook, setRules, setTitle] as const;
