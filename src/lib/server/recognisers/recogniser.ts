/** What every recogniser does, whatever it is: hears chunks of a recording's sound. */
import type { Term } from '$lib/core/expecting';
import type { FitTask, TaskTimes } from '$lib/core/fitting';
import type { HeardWord, Reading } from '$lib/core/hearing';
import type { LiveWord } from '$lib/core/narration';
import type { Span } from '$lib/core/time';

export interface EngineFacts {
  readonly id: string;
  readonly name: string;
  readonly kind: 'local' | 'simulated';
  /** A model from the user's own folder: what is wrong with it stands there. */
  readonly isOwn?: true;
  readonly available: boolean;
  /** BCP 47; one is heard where its primary subtag matches. */
  readonly languages: readonly string[];
  /** Whether it hears words. */
  readonly hears: boolean;
  /** Whether it lays a known script on the sound. */
  readonly fits: boolean;
  /** Whether the sound is sent to another machine. */
  readonly sendsSound: boolean;
  /** What a started minute costs; left out where nothing is billed. */
  readonly price?: { readonly centsPerMinute: number; readonly balanceCents: number; readonly currency: string };
  /** Why it is not available. */
  readonly reason?: string;
}

export interface SoundRequest {
  /** 16-bit mono at 16 kHz, from the recording's zero. */
  readonly soundPath: string;
  /** For files of the engine's own; swept when the server starts. */
  readonly scratchFolder: string;
  /** Names and phrases to expect, to be written as they stand here. */
  readonly terms: readonly Term[];
  /** What else is likely to be said, as it is said. */
  readonly phrases?: readonly string[];
  readonly signal: AbortSignal;
}

/** What is heard as one stretch. */
export interface Chunk extends Span {
  readonly position: number;
}

export interface HearRequest extends SoundRequest {
  /** What was asked to be heard, silence and all. */
  readonly asked: Span;
  /** Where there is speech in it, in order. */
  readonly regions: readonly Span[];
  readonly language: string;
  /** The same for the same sound, heard in the same way: what is sent and billed is so once a key. */
  readonly key: string;
  /** In order; those that still have to be heard. */
  readonly chunks: readonly Chunk[];
  /** The next of them that nobody else is at; `null` where there is none. Left out: they are all this request's own. */
  readonly takeChunk?: () => Chunk | null;
  /** Called once a chunk: its words in time of the recording, or `null` where the engine failed on it twice. */
  readonly onChunk: (position: number, words: readonly HeardWord[] | null) => void;
  /** Milliseconds of sound heard so far, those of chunks in work included. */
  readonly onHeard: (heardMs: number) => void;
}

/** A passage, short enough to be one stretch. */
export interface ReadingsRequest extends SoundRequest, Span {
  /** Called with the share that is done, 0 to 1. */
  readonly onProgress: (share: number) => void;
}

export interface FitRequest extends SoundRequest {
  readonly tasks: readonly FitTask[];
  /** Called once a task. */
  readonly onFitted: (task: FitTask, times: TaskTimes) => void;
}

export interface Recogniser {
  /** Bare words in small letters get their sentences here; written ones come with marks and capitals. */
  readonly writes: 'bare words' | 'text';
  facts(): Promise<EngineFacts>;
  /** Resolves when every chunk was answered. Rejects when aborted, or when the engine cannot work at all. */
  hear(request: HearRequest): Promise<void>;
}

/** Sound that is still being written. */
export interface LiveRequest {
  /** A WAVE file of 16-bit mono at 48 kHz, whose head may still be empty. */
  readonly soundPath: string;
  readonly fromMs: number;
  /** Words that stand, and what is heard behind them, which may still change. */
  readonly onHeard: (settled: readonly LiveWord[], pending: readonly LiveWord[]) => void;
  /** It has ended by itself: nothing more is heard. */
  readonly onEnd: () => void;
}

export interface LiveEar {
  /** So much of the sound has been written. */
  hearTo(ms: number): void;
  end(): void;
}

/** One on this machine, that can be asked of any passage at any time. */
export interface LocalRecogniser extends Recogniser {
  /** What a passage may say, best first. */
  readings(request: ReadingsRequest): Promise<Reading[]>;
  /** Lays known words on the sound. Resolves when every task was answered. */
  fit(request: FitRequest): Promise<void>;
  /** The language, BCP 47, in which it hears while it is spoken. */
  readonly listensIn: string;
  listen(request: LiveRequest): LiveEar;
}
