import type { z } from 'zod';
import type { Job } from '../store/jobs';

export interface JobContext<P = unknown> {
  readonly job: Job;
  readonly params: P;
  readonly signal: AbortSignal;
  /** `progress` 0 to 1. */
  readonly tell: (stage: string, progress: number) => void;
}

/** A kind of long work. The runner and the database know none of them by name. */
export interface JobKind<P = unknown, R extends object = object> {
  readonly kind: string;
  readonly params: z.ZodType<P>;
  /** What stands in the job when it is done. */
  readonly result: z.ZodType<R>;
  /** So many of this kind are at work at once. */
  readonly concurrency: number;
  /** Does the work; taken up again after a restart where it stopped. */
  readonly run: (context: JobContext<P>) => Promise<R>;
  /** It ended without being done, and why: those who wait for what it makes are told. */
  readonly onGivenUp?: (job: Job, why: string) => void;
}

/** A kind as the registry holds it; what it is given has been read by its own schemas. */
export const jobKind = <P, R extends object>(kind: JobKind<P, R>): JobKind => kind as unknown as JobKind;
