import { z } from 'zod';

/** Of a document or an item of one: a UUID where this product minted it. */
export const idSchema = z.string().min(1).max(64);

export const wordIdSchema = idSchema.brand<'WordId'>();
export type WordId = z.infer<typeof wordIdSchema>;
export const cueIdSchema = idSchema.brand<'CueId'>();
export type CueId = z.infer<typeof cueIdSchema>;
export const trackIdSchema = idSchema.brand<'TrackId'>();
export type TrackId = z.infer<typeof trackIdSchema>;

/** An id as of the kind that it is minted or looked up as: one that nobody has is found nowhere. */
export const asWordId = (id: string): WordId => id as WordId;
export const asCueId = (id: string): CueId => id as CueId;
export const asTrackId = (id: string): TrackId => id as TrackId;
