/** A house's sheet: which checks count as what, and their numbers. What it does not speak of is as the table has it. */
import { z } from 'zod';
import { keptFile } from '../kept';
import { clamp } from '../time';
import { sheetSchema, type Sheet, type Track } from '../track';
import type { Check } from './check';
import { CHECKS, findCheck } from './table';

type Setting = Sheet[string];

/** A sheet whose checks are known, with numbers that make sense. */
export const strictSheetSchema = sheetSchema.superRefine((sheet, context) => {
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
});

/** A sheet of the house, by its name. */
export const ownSheetSchema = z.object({ name: z.string().trim().min(1).max(80), sheet: strictSheetSchema }).readonly();
export type OwnSheet = z.infer<typeof ownSheetSchema>;

const file = keptFile('sheet', ownSheetSchema);
export const formatSheetsFile = (sheets: readonly OwnSheet[]): string =>
  file.format(sheets.map(({ name, sheet }) => ({ name, sheet })));
export const parseSheetsFile = file.parse;

/** A sheet that tracks can be given. Each change of one makes a version that no sheet had before. */
export const keptSheetSchema = z
  .object({ ...ownSheetSchema.unwrap().shape, version: z.int().min(0), shipped: z.boolean() })
  .readonly();
export type KeptSheet = z.infer<typeof keptSheetSchema>;

/** How a check counts under a sheet. */
export const severityOf = (check: Check, sheet: Sheet): Check['severity'] =>
  sheet[check.id]?.severity ?? check.severity;

/** The numbers of a check: the sheet's, else the track's own rules, else the table's; never beyond what makes sense. */
export function numbersOf(
  check: Check,
  sheet: Sheet,
  { rules }: Pick<Track, 'rules'>
): Readonly<Record<string, number>> {
  const own = sheet[check.id]?.numbers ?? {};
  return Object.fromEntries(
    Object.entries(check.numbers ?? {}).map(([name, { value, least, most }]) => [
      name,
      clamp(own[name] ?? (typeof value === 'number' ? value : rules[value.rule]), least, most)
    ])
  );
}

const set = (severity: Setting['severity'], numbers?: Record<string, number>): Setting => ({
  ...(severity !== undefined && { severity }),
  ...(numbers !== undefined && { numbers })
});
const only = (numbers: Record<string, number>): Setting => set(undefined, numbers);

const shipped = (name: string, sheet: Sheet): KeptSheet => ({ name, sheet, version: 0, shipped: true });

export const SHIPPED_SHEETS: readonly KeptSheet[] = [
  shipped('Web video', {}),
  shipped('Broadcast', {
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
  }),
  shipped('Children', {
    reading_speed: only({ most: 12 }),
    reading_words: set('warning', { most: 140 }),
    line_length: only({ most: 32 }),
    min_duration: set('error', { least: 1500 }),
    line_parted: set('warning'),
    cue_parted: set('warning'),
    sentence_begun: set('warning'),
    speaker_named: set('warning'),
    sound_uncaptioned: set('warning')
  }),
  shipped('Vertical clip', {
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
  }),
  // WCAG 2.2, success criteria 1.2.2 (captions) and 1.4.3 (contrast), and what guidance for deaf viewers asks.
  shipped('Accessibility', {
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
  })
];

/** Checks that can be off or on, group by group, as the sheet editor shows them. */
export const checksOf = (group: Check['group']): readonly Check[] => CHECKS.filter((check) => check.group === group);
