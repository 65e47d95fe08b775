import { LEVEL_BUCKET_MS } from '$lib/core/audio';
import type { JobStore } from '../store/jobs';
import type { Recording } from '../store/recordings';
import type { TrackStore, TrackSummary } from '../store/tracks';
import type { Preparing } from './preparing';

interface Parts {
  readonly jobStore: JobStore;
  readonly trackStore: TrackStore;
  readonly preparing: Preparing;
}

/** Kinds of work that a recording is not ready without, or grows a track by. */
const MAKES_READY: readonly string[] = ['prepare', 'hear'];

/** A recording as the API tells it. */
export function recordingAnswer({ jobStore, trackStore, preparing }: Parts, recording: Recording) {
  const { media } = recording;
  const job = jobStore
    .listOf(recording.id)
    .find(({ kind, state }) => MAKES_READY.includes(kind) && (state === 'queued' || state === 'running'));
  return {
    id: recording.id,
    title: recording.title,
    ...(recording.formerTitles.length > 0 && { formerTitles: recording.formerTitles }),
    durationMs: recording.durationMs,
    state: recording.state,
    ...(recording.failure !== null && { failure: recording.failure }),
    ...(preparing.canGoOn(recording) && { canGoOn: true }),
    hasSpeechMap: recording.hasSpeechMap,
    levelBucketMs: LEVEL_BUCKET_MS,
    createdAtMs: recording.createdAtMs,
    ...(recording.binnedAtMs !== null && { binnedAtMs: recording.binnedAtMs }),
    ...(job !== undefined && { jobId: job.id }),
    ...(recording.projectId !== null && { projectId: recording.projectId }),
    ...(recording.cutOf !== null && { cutOf: recording.cutOf, isCompared: recording.isCompared }),
    media: {
      mime: media.mime,
      hasVideo: media.hasVideo,
      ...(media.width !== null && { width: media.width, height: media.height }),
      ...(media.frameRate !== null && { frameRate: media.frameRate }),
      channels: media.channels,
      sampleRate: media.sampleRate,
      bytes: media.bytes
    },
    tracks: trackStore.listOf(recording.id).map(trackSummaryAnswer)
  };
}

/** A track as lists tell it. */
export const trackSummaryAnswer = (track: TrackSummary) => ({
  id: track.id,
  language: track.language,
  kind: track.kind,
  ...(track.sourceTrackId !== null && { sourceTrackId: track.sourceTrackId }),
  title: track.title,
  state: track.state,
  revision: track.revision,
  wordCount: track.wordCount,
  correctedCount: track.correctedCount,
  cueCount: track.cueCount,
  ...(track.doubtCount !== null && { doubtCount: track.doubtCount }),
  ...(track.findingCount !== null && { findingCount: track.findingCount }),
  ...(track.handedOver !== null && { handedOver: track.handedOver }),
  ...(track.binnedAtMs !== null && { binnedAtMs: track.binnedAtMs })
});
