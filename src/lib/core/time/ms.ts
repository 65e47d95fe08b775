import { z } from 'zod';

/** Later than any time that a document holds: 1,000 hours. */
export const MOST_MS = 1000 * 3_600_000;
/** The one bound of times, whatever brings them. */
export const msSchema = z.int().min(0).max(MOST_MS).brand<'Ms'>();

/** Whole milliseconds: a time from the start of the media, as the browser plays it, or a length of it. */
export type Ms = z.infer<typeof msSchema>;

/** What has been reckoned, as whole milliseconds: fractions are rounded. */
export const wholeMs = (milliseconds: number): Ms => Math.round(milliseconds) as Ms;
