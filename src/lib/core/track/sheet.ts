/** The sheet by which a track is checked: what each check counts as, and its numbers. `core/checks` knows the checks. */
import { z } from 'zod';

export const SEVERITIES = ['error', 'warning', 'hint'] as const;
/** An `error` is a fault that must not be handed over. */
export type Severity = (typeof SEVERITIES)[number];

const settingSchema = z
  .strictObject({
    severity: z.enum([...SEVERITIES, 'off']).optional(),
    numbers: z.record(z.string().max(40), z.number()).readonly().optional()
  })
  .readonly();

/** By the ids of checks; what it does not speak of is as the table of checks has it. */
export const sheetSchema = z.record(z.string().max(40), settingSchema).readonly();
export type Sheet = z.infer<typeof sheetSchema>;
