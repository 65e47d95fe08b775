import type { Span } from '$lib/core/time';
import type { Cue, Track, Word } from '$lib/core/track';

/** What rows show: the track as it was recorded, with what is tried, or as it is of a trim. */
export interface RowSource {
  readonly track: Track;
  /** Its words by the time they start. */
  readonly spokenOrder: readonly Word[];
  readonly durationMs: number;
  readonly shotsMs: readonly number[];
  /** Where the sound is joined. */
  readonly joinsMs: readonly number[];
  /** Cues as they stand where something else is tried; `null`: nothing is. */
  readonly standing: readonly Cue[] | null;
  /** `null` where spectra are not known. */
  readonly spectrumOf: ((span: Span) => Promise<Uint8Array | null>) | null;
}
