/** The job that hears a recording: chunks at pauses, words from the recogniser, a drafted track. */
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { cutAtPauses, speechRegions } from '$lib/core/audio';
import { draftTrack, timingTrack, type HeardChunk } from '$lib/core/hearing';
import { rulesSchema, type Track } from '$lib/core/track';
import { loadSpeech } from '../media/prepare';
import type { MediaFiles } from '../media/files';
import { ApiProblem } from '../problem';
import type { Recogniser } from '../recognisers/recogniser';
import { TIMING_ENGINE } from '../recognisers/timing';
import type { Db } from '../store/database';
import type { JobStore } from '../store/jobs';
import type { RecordingStore } from '../store/recordings';
import type { TrackStore } from '../store/tracks';
import type { JobHandler } from './runner';

const termsSchema = z.array(z.object({ text: z.string(), soundsLike: z.string().nullable() }));

export const hearParams = z.object({
  engine: z.string(),
  language: z.string(),
  title: z.string(),
  rules: rulesSchema,
  /** As they stood when the hearing was asked for. */
  terms: termsSchema.default([])
});

const heardWords = z
  .array(
    z.object({
      text: z.string(),
      startMs: z.int(),
      endMs: z.int(),
      confidence: z.number(),
      alternatives: z.array(z.string())
    })
  )
  .nullable();

/** Long enough for the language model to help, short enough that every core has several and little is lost with one. */
const CHUNK = { targetMs: 14_000, maxMs: 26_000 };

export interface HearParts {
  readonly db: Db;
  readonly jobs: JobStore;
  readonly tracks: TrackStore;
  readonly recordings: RecordingStore;
  readonly files: MediaFiles;
  readonly recognisers: ReadonlyMap<string, Recogniser>;
  /** Resolves when the speech map is there. */
  readonly speechMapped: (recordingId: string) => Promise<void>;
  readonly onTrack: (recordingId: string) => void;
}

export function hearHandler(parts: HearParts): JobHandler {
  return async ({ job, signal, tell }) => {
    const params = hearParams.parse(job.params);
    const keep = (track: Track): { trackId: string } => {
      // The track and the job's end are one: a restart between them would hear it twice.
      parts.db.transaction(() => {
        parts.tracks.insert(track, Date.now());
        parts.jobs.update(job.id, { state: 'done', stage: 'done', progress: 1, trackId: track.id });
      })();
      parts.onTrack(job.recordingId);
      return { trackId: track.id };
    };
    const recording = parts.recordings.find(job.recordingId)!;
    tell('finding speech', 0);
    await parts.speechMapped(job.recordingId);
    signal.throwIfAborted();

    const options = {
      trackId: randomUUID(),
      recordingId: job.recordingId,
      language: params.language,
      title: params.title,
      rules: params.rules,
      mint: randomUUID
    };
    if (params.engine === TIMING_ENGINE.id) {
      const track = timingTrack(await loadSpeech(parts.files, job.recordingId), recording.durationMs, options);
      if (track.cues.length === 0) throw noSpeech();
      return keep(track);
    }

    if (parts.jobs.chunksOf(job.id).length === 0) {
      const speech = await loadSpeech(parts.files, job.recordingId);
      parts.jobs.setChunks(job.id, cutAtPauses(speechRegions(speech, recording.durationMs), speech, CHUNK));
    }
    const chunks = parts.jobs.chunksOf(job.id);
    if (chunks.length === 0) throw noSpeech();
    const lengthOf = (some: readonly { startMs: number; endMs: number }[]): number =>
      some.reduce((sum, chunk) => sum + chunk.endMs - chunk.startMs, 0);
    const open = chunks.filter((chunk) => chunk.result === null);
    const totalMs = lengthOf(chunks);
    const doneMs = totalMs - lengthOf(open);
    tell('hearing', doneMs / totalMs);
    await parts.recognisers.get(params.engine)!.hear({
      soundPath: parts.files.soundPath(job.recordingId),
      chunks: open,
      scratchFolder: await parts.files.scratchFolder(),
      terms: params.terms,
      signal,
      onChunk: (position, words) => parts.jobs.setChunkResult(job.id, position, JSON.stringify(words)),
      onHeard: (heardMs) => tell('hearing', 0.99 * ((doneMs + heardMs) / totalMs))
    });
    tell('making cues', 0.99);
    const heard = parts.jobs.chunksOf(job.id).map((chunk): HeardChunk => ({
      startMs: chunk.startMs,
      endMs: chunk.endMs,
      words: heardWords.parse(JSON.parse(chunk.result!))
    }));
    return keep(draftTrack(heard, options));
  };
}

const noSpeech = (): ApiProblem => new ApiProblem(422, 'no_speech', 'No speech was found in this recording.');
