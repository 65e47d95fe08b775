/** What every recording needs before it is worked on, as a kind of job; and waiting for it. */
import { existsSync } from 'node:fs';
import { z } from 'zod';
import { messageOf } from '$lib/core/message-of';
import type { EventStream } from '../events';
import { jobKind, type JobContext } from '../jobs/kind';
import type { JobRunner } from '../jobs/runner';
import { compareWithCut } from '../media/cuts';
import type { MediaFiles } from '../media/files';
import { mapSpeech, prepareSound } from '../media/prepare';
import { makeProxy } from '../media/proxy';
import { ApiProblem } from '../problem';
import type { Job, JobStore } from '../store/jobs';
import type { Recording, RecordingStore } from '../store/recordings';

const PREPARE = 'prepare';
/** What no second try would mend. */
const FAULTS_OF_FILES: readonly string[] = ['unsupported_media', 'truncated_media'];

interface Parts {
  readonly recordings: RecordingStore;
  readonly jobStore: JobStore;
  readonly files: MediaFiles;
  readonly events: EventStream;
  /** The runner of its kind, which is made of it. */
  readonly jobs: () => JobRunner;
  /** A recording that is not in the bin. Throws `unknown_recording`. */
  readonly get: (id: string) => Recording;
  readonly onChange: (recordingId: string) => void;
}

export class Preparing {
  readonly #parts: Parts;
  constructor(parts: Parts) {
    this.#parts = parts;
  }

  readonly kind = jobKind({
    kind: PREPARE,
    params: z.object({}),
    result: z.object({}),
    concurrency: 1,
    run: (context) => this.#run(context),
    onGivenUp: ({ recordingId }, why) => this.#stop(recordingId, why)
  });

  begin(recordingId: string): Job {
    return this.#parts.jobs().add(PREPARE, recordingId, {});
  }

  /** Whether a recording that was not prepared to the end can be gone on with. */
  canGoOn({ id, state }: Recording): boolean {
    return state === 'failed' && existsSync(this.#parts.files.mediaPath(id));
  }

  /** Takes up the preparation of a recording that was stopped. Throws `not_stopped`. */
  goOn(id: string): Job {
    const recording = this.#parts.get(id);
    if (!this.canGoOn(recording))
      throw new ApiProblem(409, 'not_stopped', 'There is nothing to go on with: it is prepared, or its file is gone.');
    this.#parts.recordings.setPreparing(id);
    const job = this.begin(id);
    this.#parts.onChange(id);
    return job;
  }

  /** Resolves when the recording's waveform is there. Throws what was wrong with it where it failed. */
  async prepared(id: string, signal: AbortSignal): Promise<Recording> {
    for (;;) {
      const recording = this.#parts.get(id);
      if (recording.state === 'ready') return recording;
      if (recording.state === 'failed') throw this.#failure(recording);
      await this.#change(id, signal);
    }
  }

  /** Resolves when the recording's speech map is there; one that had been cancelled or failed is begun once more. */
  speechMapped(id: string, signal: AbortSignal): Promise<void> {
    return this.#preparedTo(id, ({ hasSpeechMap }) => hasSpeechMap, signal);
  }

  /** Resolves when the recording is compared with the cut before it. Throws `no_cut` where it is not the next cut of any. */
  async compared(id: string, signal: AbortSignal): Promise<string> {
    const { cutOf } = this.#parts.get(id);
    if (cutOf === null) throw new ApiProblem(422, 'no_cut', 'This recording is not the next cut of one that is here.');
    await this.#preparedTo(id, ({ isCompared }) => isCompared, signal);
    return cutOf;
  }

  async #preparedTo(id: string, isThere: (recording: Recording) => boolean, signal: AbortSignal): Promise<void> {
    for (let hasBegun = false; ;) {
      const recording = this.#parts.get(id);
      if (isThere(recording)) return;
      if (recording.state === 'failed') throw this.#failure(recording);
      const job = this.#parts.jobStore.listOf(id).find((one) => one.kind === PREPARE);
      if (job === undefined || job.state === 'cancelled' || job.state === 'failed') {
        // What was under way and is not any more was ended on purpose, or will fail again.
        if (hasBegun)
          throw new ApiProblem(
            409,
            'not_prepared',
            `This recording could not be prepared: ${job?.error ?? 'cancelled'}.`
          );
        this.begin(id);
      }
      hasBegun = true;
      await this.#change(id, signal);
    }
  }

  #failure(recording: Recording): ApiProblem {
    const why = recording.failure ?? 'The recording could not be prepared.';
    return this.canGoOn(recording)
      ? new ApiProblem(409, 'not_prepared', why)
      : new ApiProblem(422, 'unsupported_media', why);
  }

  /** Resolves at the next change of a recording, or when one of its jobs has ended; rejects when aborted. */
  #change(recordingId: string, signal: AbortSignal): Promise<void> {
    return new Promise((resolve, reject) => {
      if (signal.aborted) return reject(signal.reason as Error);
      const settle = (finish: () => void): void => {
        stop();
        signal.removeEventListener('abort', abort);
        finish();
      };
      const abort = (): void => settle(() => reject(signal.reason as Error));
      const stop = this.#parts.events.listen(({ event }) => {
        const isOwn =
          event.name === 'recordings'
            ? event.data.recordingId === recordingId
            : event.name === 'job' && this.#isEndOf(event.jobId, recordingId);
        if (isOwn) settle(resolve);
      });
      signal.addEventListener('abort', abort, { once: true });
    });
  }

  #isEndOf(jobId: string, recordingId: string): boolean {
    const job = this.#parts.jobStore.find(jobId);
    return job !== null && job.recordingId === recordingId && job.state !== 'queued' && job.state !== 'running';
  }

  /** One that has no waveform yet is in a state that says why, and that can be gone on from. */
  #stop(id: string, why: string): void {
    const { recordings, onChange } = this.#parts;
    if (recordings.find(id)?.state !== 'preparing') return;
    recordings.setFailed(id, why === 'cancelled' ? 'Preparing it was cancelled. It can be gone on with.' : why);
    onChange(id);
  }

  async #run({ job, signal, tell }: JobContext): Promise<object> {
    const { recordings, files, onChange } = this.#parts;
    const id = job.recordingId;
    const recording = recordings.find(id)!;
    try {
      if (recording.state === 'preparing') {
        const durationMs = await prepareSound(files, recording, {
          durationMs: recording.durationMs,
          signal,
          onProgress: (progress) => tell('drawing the waveform', progress * 0.2)
        });
        if (recording.hasProxy) {
          await makeProxy(files, id, {
            hasVideo: recording.media.hasVideo,
            durationMs,
            signal,
            onProgress: (progress) => tell('making a copy that plays here', 0.2 + progress * 0.2)
          });
        }
        recordings.setReady(id, durationMs);
        onChange(id);
      }
      if (!recording.hasSpeechMap) {
        await mapSpeech(files.mainSound(id), {
          signal,
          onProgress: (progress) => tell('finding speech', 0.4 + progress * (recording.cutOf === null ? 0.6 : 0.4))
        });
        recordings.setSpeechMapped(id);
        onChange(id);
      }
      await this.#compare(recording, signal, (progress) =>
        tell('finding what is in the cut before', 0.8 + progress * 0.2)
      );
    } catch (error) {
      const isFilesFault = error instanceof ApiProblem && FAULTS_OF_FILES.includes(error.code);
      if (!signal.aborted && isFilesFault && recordings.find(id)?.state === 'preparing') {
        // Nothing can be gone on with.
        recordings.setFailed(id, messageOf(error));
        await files.dropRecording(id);
      }
      throw error;
    } finally {
      if (!signal.aborted) onChange(id);
    }
    return {};
  }

  /** Lays a new cut beside the one before, as soon as that one's sound is there; nothing where it is the cut of none. */
  async #compare(
    { id, cutOf, isCompared }: Recording,
    signal: AbortSignal,
    onProgress: (progress: number) => void
  ): Promise<void> {
    if (cutOf === null || isCompared) return;
    const { recordings, files } = this.#parts;
    // Prepared one after the other: the earlier one is ready, or never will be.
    if (recordings.find(cutOf)?.state !== 'ready')
      throw new ApiProblem(409, 'cut_not_ready', 'The cut before this one is not prepared; prepare it and try again.');
    await compareWithCut(files, id, cutOf, { signal, onProgress });
    recordings.setCompared(id);
  }
}
