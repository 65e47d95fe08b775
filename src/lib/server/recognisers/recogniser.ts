/** What every recogniser does, whatever it is: hears chunks of a recording's sound. */
import type { Term } from '$lib/core/expecting';
import type { HeardWord } from '$lib/core/hearing';
import type { Span } from '$lib/core/time';

export interface EngineFacts {
  readonly id: string;
  readonly name: string;
  readonly kind: 'local' | 'simulated';
  readonly available: boolean;
  /** BCP 47; one is heard where its primary subtag matches. */
  readonly languages: readonly string[];
  /** Why it is not available. */
  readonly reason?: string;
}

export interface HearRequest {
  /** 16-bit mono at 16 kHz, from the recording's zero. */
  readonly soundPath: string;
  /** In order; those that still have to be heard. */
  readonly chunks: readonly (Span & { readonly position: number })[];
  /** For files of the engine's own; swept when the server starts. */
  readonly scratchFolder: string;
  /** Names and phrases to expect. */
  readonly terms: readonly Term[];
  readonly signal: AbortSignal;
  /** Called once a chunk: its words in time of the recording, or `null` where the engine failed on it twice. */
  readonly onChunk: (position: number, words: readonly HeardWord[] | null) => void;
  /** Milliseconds of sound heard so far, those of chunks in work included. */
  readonly onHeard: (heardMs: number) => void;
}

/** In the list of an engine's languages: any. */
export const ANY_LANGUAGE = 'und';

export interface Recogniser {
  facts(): Promise<EngineFacts>;
  /** Resolves when every chunk was answered. Rejects when aborted, or when the engine cannot work at all. */
  hear(request: HearRequest): Promise<void>;
}
