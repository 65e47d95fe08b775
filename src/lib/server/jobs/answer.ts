import type { Job } from '../store/jobs';

/** A job as the API tells it. */
export interface JobAnswer {
  readonly id: string;
  readonly kind: string;
  readonly recordingId: string;
  readonly state: Job['state'];
  readonly progress: number;
  readonly stage: string;
  /** About how long it still takes, once that can be told. */
  readonly leftMs?: number;
  readonly error?: string;
  readonly result?: Job['result'];
}

export function jobAnswer(job: Job, leftMs?: number): JobAnswer {
  return {
    id: job.id,
    kind: job.kind,
    recordingId: job.recordingId,
    state: job.state,
    progress: job.progress,
    stage: job.stage,
    ...(job.state === 'running' && leftMs !== undefined && { leftMs }),
    ...(job.error !== null && { error: job.error }),
    // A hearing that was cancelled may have left a track of what it had heard.
    ...((job.state === 'done' || Object.keys(job.result).length > 0) && { result: job.result })
  };
}
