/** A track whole, as documented JSON: words with their times, cues, speakers, looks, rules. Nothing is lost on the way back. */
import { z } from 'zod';
import { fail, ok, type Result } from '../../result';
import type { TrackId } from '../../id';
import { findBrokenInvariant, makeTrack, trackSchema, type Track } from '../../track';

const FORM = 1;
/** What belongs to the place where a track lies, not to it: ids of other things, and its own. */
const { id: _, recordingId: __, sourceTrackId: ___, ...fields } = trackSchema.unwrap().shape;
const contentSchema = z.object(fields);
const markSchema = z.looseObject({ vineTapTrack: z.int() });

export function formatJson(track: Track): string {
  const { id: _id, recordingId: _recordingId, sourceTrackId: _sourceTrackId, ...content } = track;
  return `${JSON.stringify({ vineTapTrack: FORM, ...content }, null, 1)}\n`;
}

/** The track that stands in the file, in another place; or why it cannot be had. */
export function parseJson(
  content: string,
  place: { readonly id: TrackId; readonly recordingId: string }
): Result<Track, { readonly message: string }> {
  let raw: unknown;
  try {
    raw = JSON.parse(content.replace(/^\ufeff/, ''));
  } catch {
    return fail({ message: 'This is no JSON that can be read.' });
  }
  const mark = markSchema.safeParse(raw);
  if (!mark.success) return fail({ message: 'This JSON file holds no track: choose one that was saved here.' });
  if (mark.data.vineTapTrack > FORM)
    return fail({ message: 'This track was saved by a newer version of Vine Tap, which this one cannot read.' });
  const read = contentSchema.safeParse(raw);
  if (!read.success) {
    const [issue] = read.error.issues;
    return fail({
      message: `The track in this file is not as it should be: ${issue!.path.join('.')}: ${issue!.message}.`
    });
  }
  const track = makeTrack({ ...read.data, ...place });
  const broken = findBrokenInvariant(track);
  if (broken !== null) return fail({ message: `The track in this file is not whole: ${broken}.` });
  return ok(track);
}
