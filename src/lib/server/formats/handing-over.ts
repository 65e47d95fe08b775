/** Files of tracks as they leave the house: written, hashed, and noted under the track's version. */
import type { ExportOptions, Format } from '$lib/core/formats';
import { contentOf, type HandedOverFile } from '$lib/core/handed-over';
import type { Track } from '$lib/core/track';
import { withSourceAbove } from '$lib/core/translating';
import { mapOf, trimTrack } from '$lib/core/trims';
import { sha256Of } from '../sha256';
import type { DigestStore } from '../store/digests';
import type { HandedOverStore } from '../store/handed-over';
import type { Recording } from '../store/recordings';
import type { OpenTracks } from '../tracks/open-tracks';
import { trimmedName } from '../trims/named';
import type { OpenTrims } from '../trims/open-trims';
import { ApiProblem } from '../problem';
import { writeFormat } from './write';

/** What it takes of the app. */
export interface HandingOver {
  readonly tracks: OpenTracks;
  readonly trims: OpenTrims;
  readonly digests: DigestStore;
  readonly handedOver: HandedOverStore;
  readonly getRecording: (id: string) => Recording;
  readonly changed: (recordingId: string) => void;
}

export interface Going {
  /** As it goes: of a trim, if one is meant. */
  readonly track: Track;
  readonly revision: number;
  readonly recording: Recording;
  /** A hash of all that files can say of the track. */
  readonly content: string;
  /** That its files belong to. */
  readonly version: number;
}

export interface GoingOptions {
  /** Of which trim; left out or `null`: as it was recorded. */
  readonly trimId?: string | null;
  /** A translation with its source above it. */
  readonly withSource?: boolean;
}

/** A track as it is to go. Throws `unknown_track`, `unknown_trim`, `no_translation`. */
export function going(
  app: HandingOver,
  trackId: string,
  { trimId = null, withSource = false }: GoingOptions = {}
): Going {
  const { track, revision } = app.tracks.get(trackId);
  const content = app.digests.contentAt(trackId, revision) ?? sha256Of(contentOf(track));
  const recording = app.getRecording(track.recordingId);
  const version = app.handedOver.versionFor(track.id, content);
  const shown = withSource ? withItsSource(app, track) : track;
  return { ...asSeen(app, shown, recording, trimId), revision, content, version };
}

/** Throws `no_translation`. */
export function withItsSource({ tracks }: Pick<HandingOver, 'tracks'>, track: Track): Track {
  if (track.sourceTrackId === null)
    throw new ApiProblem(422, 'no_translation', 'This track translates no other: it has no source to be shown with.');
  return withSourceAbove(track, tracks.get(track.sourceTrackId).track);
}

/** A track and its recording as they are recorded, or as they are of a trim. Throws `unknown_trim`. */
export function asSeen(
  app: Pick<HandingOver, 'trims'>,
  track: Track,
  recording: Recording,
  trimId: string | null
): { readonly track: Track; readonly recording: Recording } {
  if (trimId === null) return { track, recording };
  const { trim } = app.trims.get(trimId);
  if (trim.recordingId !== recording.id)
    throw new ApiProblem(422, 'unknown_trim', 'This trim belongs to another recording.');
  return {
    track: trimTrack(track, trim).track,
    recording: { ...trimmedName(recording, trim), durationMs: mapOf(trim).lengthMs }
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
