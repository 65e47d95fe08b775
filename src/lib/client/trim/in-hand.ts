/** The trim in hand, as what works on it sees it. */
import type { CutSound, PieceSpan, Trim, TrimCommand, TrimMap } from '$lib/core/trims';
import type { TrimSession } from '../session/trim-session.svelte';
import type { WordsByMiddle } from './text';

/** What is chosen: tokens of the text from one to another, or a stretch of recorded time. */
export interface TrimChoice {
  readonly keys: readonly [string, string] | null;
  readonly spans: readonly PieceSpan[];
  /** Put-in pauses among the tokens. */
  readonly pauseIds?: readonly string[];
}

export interface TrimInHand {
  readonly session: TrimSession | null;
  readonly trim: Trim | null;
  readonly map: TrimMap | null;
  /** Those of the track. */
  readonly words: WordsByMiddle;
  /** What is known of the sound where it may be cut. */
  readonly cutSound: CutSound | null;
  /** Trimmed time that is heard now. */
  readonly nowMs: number;
  choice: TrimChoice | null;
  say(text: string): void;
  /** Says why where it cannot be done; whether it was. */
  edit(...commands: readonly TrimCommand[]): boolean;
  /** Plays a stretch of trimmed time, of the trim or of what it might become. */
  playOnce(fromMs: number, toMs: number, trim?: Trim): void;
}
