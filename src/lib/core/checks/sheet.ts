/** A house's sheet: which checks count as what, and their numbers. What it does not speak of is as the table has it. */
import { z } from 'zod';
import type { Track } from '../track';
import type { Check } from './check';
import { SEVERITIES } from './finding';
import { CHECKS, findCheck } from './table';

const settingSchema = z
  .strictObject({
    severity: z.enum([...SEVERITIES, 'off']).optional(),
    numbers: z.record(z.string().max(40), z.number()).readonly().optional()
  })
  .readonly();
type Setting = z.infer<typeof settingSchema>;

/** By the ids of checks. */
export const sheetSchema = z
  .record(z.string().max(40), settingSchema)
  .superRefine((sheet, context) => {
    for (const [id, { numbers = {} }] of Object.entries(sheet)) {
      const check = findCheck(id);
      if (check === undefined) {
        context.addIssue({ code: 'custom', path: [id], message: `there is no check of the name ${id}` });
        continue;
      }
      for (const [name, value] of Object.entries(numbers)) {
        const number = check.numbers?.[name];
        const path = [id, 'numbers', name];
        if (number === undefined)
          context.addIssue({ code: 'custom', path, message: `${id} has no number of the name ${name}` });
        else if (value < number.least || value > number.most)
          context.addIssue({ code: 'custom', path, message: `it may be from ${number.least} to ${number.most}` });
      }
    }
  })
  .readonly();
export type Sheet = z.infer<typeof sheetSchema>;

export const namedSheetSchema = z.object({ name: z.string().trim().min(1).max(80), sheet: sheetSchema }).readonly();
export type NamedSheet = z.infer<typeof namedSheetSchema>;

/** How a check counts under a sheet. */
export const severityOf = (check: Check, sheet: Sheet): Check['severity'] =>
  sheet[check.id]?.severity ?? check.severity;

/** The numbers of a check: the sheet's, else the track's own rules, else the table's. */
export function numbersOf(
  check: Check,
  sheet: Sheet,
  { rules }: Pick<Track, 'rules'>
): Readonly<Record<string, number>> {
  const own = sheet[check.id]?.numbers ?? {};
  return Object.fromEntries(
    Object.entries(check.numbers ?? {}).map(([name, { value }]) => [
      name,
      own[name] ?? (typeof value === 'number' ? value : rules[value.rule])
    ])
  );
}

const set = (severity: Setting['severity'], numbers?: Record<string, number>): Setting => ({
  ...(severity !== undefined && { severity }),
  ...(numbers !== undefined && { numbers })
});
const only = (numbers: Record<string, number>): Setting => set(undefined, numbers);

export const SHIPPED_SHEETS: readonly NamedSheet[] = [
  { name: 'Web video', sheet: {} },
  {
    name: 'Broadcast',
    sheet: {
      reading_speed: only({ most: 17 }),
      line_length: only({ most: 37 }),
      line_count: only({ most: 2 }),
      min_gap: set('error', { least: 80 }),
      min_duration: set('error', { least: 1000 }),
      flicker: set('hint'),
      near_shot: set('error', { frames: 12 }),
      late_start: set('error'),
      typed_dash: set('warning'),
      mixed_dashes: set('warning'),
      mixed_quotes: set('warning'),
      cue_parted: set('warning'),
      small_number: set('hint'),
      speaker_named: set('hint')
    }
  },
  {
    name: 'Children',
    sheet: {
      reading_speed: only({ most: 12 }),
      reading_words: set('warning', { most: 140 }),
      line_length: only({ most: 32 }),
      min_duration: set('error', { least: 1500 }),
      line_parted: set('warning'),
      cue_parted: set('warning'),
      sentence_begun: set('warning'),
      speaker_named: set('warning'),
      sound_uncaptioned: set('warning')
    }
  },
  {
    name: 'Vertical clip',
    sheet: {
      line_length: only({ most: 24 }),
      reading_speed: set('warning', { most: 25 }),
      min_duration: set('hint', { least: 300 }),
      fits_one_line: set('off'),
      line_balance: set('off'),
      cue_parted: set('off'),
      sentence_begun: set('off'),
      sentence_end: set('off'),
      flicker: set('off'),
      near_shot: set('hint')
    }
  },
  {
    // WCAG 2.2, success criteria 1.2.2 (captions) and 1.4.3 (contrast), and what guidance for deaf viewers asks.
    name: 'Accessibility',
    sheet: {
      reading_words: set('warning', { most: 180 }),
      speech_uncaptioned: set('error', { most: 600 }),
      sound_uncaptioned: set('warning'),
      sound_outlasts: set('warning'),
      speaker_change: set('error'),
      speaker_named: set('warning'),
      music_sign: set('warning'),
      sound_unbracketed: set('warning'),
      contrast: set('error', { least: 4.5 }),
      language: set('error'),
      title: set('hint')
    }
  }
];

/** Checks that can be off or on, group by group, as the sheet editor shows them. */
export const checksOf = (group: Check['group']): readonly Check[] => CHECKS.filter((check) => check.group === group);
