/** Files of tracks as they leave the house: written, hashed, and noted under the track's version. */
import type { ExportOptions, Format } from '$lib/core/formats';
import { contentOf } from '$lib/core/handed-over';
import type { Track } from '$lib/core/track';
import { sha256Of } from '../sha256';
import type { HandedOverStore } from '../store/handed-over';
import type { Recording } from '../store/recordings';
import type { OpenTracks } from '../tracks/open-tracks';
import { writeFormat } from './write';

/** What it takes of the app. */
export interface HandingOver {
  readonly tracks: OpenTracks;
  readonly handedOver: HandedOverStore;
  readonly getRecording: (id: string) => Recording;
  readonly changed: (recordingId: string) => void;
}

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
export function going(app: HandingOver, trackId: string): Going {
  const { track, revision } = app.tracks.get(trackId);
  const content = sha256Of(contentOf(track));
  return {
    ...{ track, revision, content, recording: app.getRecording(track.recordingId) },
    version: app.handedOver.versionFor(track.id, content)
  };
}

/** The file, which has been noted as handed over when it is there. */
export async function handOver(
  app: HandingOver,
  { track, recording: { id, title, durationMs }, ...said }: Going,
  asked: { readonly format: Format; readonly options: ExportOptions; readonly name: string },
  signal: AbortSignal
): Promise<{ readonly file: Uint8Array; readonly sha256: string }> {
  const { format, options, name } = asked;
  const file = await writeFormat(format, track, { ...options, title, durationMs }, signal);
  const sha256 = sha256Of(file);
  app.handedOver.note(track.id, said, {
    ...{ name, format: format.id, bytes: file.length, sha256, atMs: Date.now() }
  });
  app.changed(id);
  return { file, sha256 };
}
