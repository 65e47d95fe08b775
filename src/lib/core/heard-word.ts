import type { Span } from './time';

/** A word as it was heard, in time of the recording. */
export interface HeardWord extends Span {
  readonly text: string;
  /** 0 to 1. */
  readonly confidence: number;
  readonly alternatives: readonly string[];
  /** As in `SpokenWord`: how likely a sentence ends behind it; `null` where the engine does not say. */
  readonly endOdds: number | null;
  /** `false` in scripts that set no space between words. */
  readonly spaceBefore?: boolean;
}
