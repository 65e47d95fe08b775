/** Files of tracks as they leave the house: written, hashed, and noted under the track's version. */
import { createHash } from 'node:crypto';
import type { ExportOptions, Format } from '$lib/core/formats';
import { contentOf } from '$lib/core/handed-over';
import type { TrackId } from '$lib/core/id';
import type { Track } from '$lib/core/track';
import type { App } from '../app';
import type { Recording } from '../store/recordings';
import { writeFormat } from './write';

export const sha256Of = (data: string | Uint8Array): string => createHash('sha256').update(data).digest('hex');

export interface Going {
  readonly track: Track;
  readonly revision: number;
  readonly recording: Recording;
  /** A hash of all that files can say of the track. */
  readonly content: string;
  /** That its files belong to. */
  readonly version: number;
}

/** A track as it is to go. Throws `unknown_track`. */
export function going(app: App, trackId: string): Going {
  const { track, revision } = app.tracks.get(trackId);
  const content = sha256Of(contentOf(track));
  return {
    ...{ track, revision, content, recording: app.getRecording(track.recordingId) },
    version: app.handedOver.versionFor(track.id as TrackId, content)
  };
}

/** The file, which has been noted as handed over when it is there. */
export async function handOver(
  app: App,
  { track, recording: { title, durationMs }, ...said }: Going,
  asked: { readonly format: Format; readonly options: ExportOptions; readonly name: string },
  signal: AbortSignal
): Promise<{ readonly file: Uint8Array; readonly sha256: string }> {
  const { format, options, name } = asked;
  const file = await writeFormat(format, track, { ...options, title, durationMs }, signal);
  const sha256 = sha256Of(file);
  app.handedOver.note(track.id, said, {
    ...{ name, format: format.id, bytes: file.length, sha256, atMs: Date.now() }
  });
  return { file, sha256 };
}
