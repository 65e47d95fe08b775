/** Files of tracks as they leave the house: written, hashed, and noted under the track's version. */
import type { ExportOptions, Format } from '$lib/core/formats';
import { contentOf, type HandedOverFile } from '$lib/core/handed-over';
import type { Track } from '$lib/core/track';
import { sha256Of } from '../sha256';
import type { DigestStore } from '../store/digests';
import type { HandedOverStore } from '../store/handed-over';
import type { Recording } from '../store/recordings';
import type { OpenTracks } from '../tracks/open-tracks';
import { writeFormat } from './write';

/** What it takes of the app. */
export interface HandingOver {
  readonly tracks: OpenTracks;
  readonly digests: DigestStore;
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
  const content = app.digests.contentAt(trackId, revision) ?? sha256Of(contentOf(track));
  return {
    ...{ track, revision, content, recording: app.getRecording(track.recordingId) },
    version: app.handedOver.versionFor(track.id, content)
  };
}

/** The file, and what is to be noted of it once it is on its way. */
export async function writeGoing(
  { track, recording: { title, durationMs } }: Going,
  { format, options, name }: { readonly format: Format; readonly options: ExportOptions; readonly name: string },
  signal: AbortSignal
): Promise<{ readonly file: Uint8Array; readonly noted: HandedOverFile }> {
  const file = await writeFormat(format, track, { ...options, title, durationMs }, signal);
  const noted = { name, format: format.id, bytes: file.length, sha256: sha256Of(file), atMs: Date.now() };
  return { file, noted };
}

/** Files of a track are handed over: its version is told wherever it is listed. */
export function noteHandedOver(app: HandingOver, goes: Going, files: readonly HandedOverFile[]): void {
  if (files.length === 0) return;
  app.handedOver.note(goes.track.id, goes, files);
  app.changed(goes.recording.id);
}
