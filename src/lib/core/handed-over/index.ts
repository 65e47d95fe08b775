/** What left the house: files of a track, gathered under versions, and whether the track says something else now. */
import { z } from 'zod';
import type { Track } from '../track';

export const handedOverFileSchema = z
  .object({
    name: z.string(),
    /** Of the list of formats, or a container of video. */
    format: z.string(),
    bytes: z.int().min(0),
    /** Of its bytes, in hexadecimal. */
    sha256: z.string(),
    /** Since 1970, UTC. */
    atMs: z.number()
  })
  .readonly();
export type HandedOverFile = z.infer<typeof handedOverFileSchema>;

/** Files that say the same: the first of a track is version 1, and what is handed over after a change is the next. */
export const handedOverVersionSchema = z
  .object({
    version: z.int().min(1),
    /** Of the track, when the first of its files was made. */
    revision: z.int().min(0),
    /** The newest first. */
    files: z.array(handedOverFileSchema).readonly()
  })
  .readonly();
export type HandedOverVersion = z.infer<typeof handedOverVersionSchema>;

/** How lists tell it of a track. */
export const lastHandedOverSchema = z
  .object({ version: z.int().min(1), atMs: z.number(), hasChanged: z.boolean() })
  .readonly();
export type LastHandedOver = z.infer<typeof lastHandedOverSchema>;

/** The version that files made now belong to. */
export const nextVersion = (last: LastHandedOver | null): number =>
  last === null ? 1 : last.hasChanged ? last.version + 1 : last.version;

/** All that files can say of a track, as a text that is the same where they say the same: not notes, states or doubts. */
export function contentOf({ language, kind, words, cues, speakers, look, rules, carried }: Track): string {
  return JSON.stringify([
    [language, kind, look, rules.sharedCues, carried],
    words
      .filter(({ shown }) => shown)
      .map(({ id, text, speakerId, kind: sort, manner, marks, spaceBefore, startsParagraph, startMs, endMs }) => [
        ...[id, text, speakerId, sort, manner, marks, spaceBefore, startsParagraph, startMs, endMs]
      ]),
    cues.map(({ startMs, endMs, wordIds, lineStarts, placement, look: own, carried: said }) => [
      ...[startMs, endMs, wordIds, lineStarts, placement, own, said]
    ]),
    speakers.map(({ id, name, look: own }) => [id, name, own])
  ]);
}
