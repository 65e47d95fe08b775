import { z } from 'zod';

/** Whole milliseconds from the start of the media, as the browser plays it. */
export type Ms = number;

/** Later than any time that a document holds: 1,000 hours. */
export const MOST_MS = 1000 * 3_600_000;
/** The one bound of times, whatever brings them. */
export const msSchema = z.int().min(0).max(MOST_MS);
