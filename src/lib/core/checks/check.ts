/** What a check is: a small pure function, its numbers, and what would mend what it finds. */
import type { ClientCommand } from '../commands';
import type { Rules, Severity, Track } from '../track';
import type { Habits } from './habits';
import type { CueView, Found, Group, Knowledge, Need } from './finding';

/** A number of a check, in its unit; one that is a house's rule is the track's own while a sheet does not set it. */
export interface NumberOf {
  readonly label: string;
  readonly unit: string;
  readonly least: number;
  readonly most: number;
  readonly value: number | { readonly rule: NumericRule };
}
type NumericRule = { [K in keyof Rules]: Rules[K] extends number ? K : never }[keyof Rules];

/** What a check is given beside the cue. */
export interface Given<N extends string> {
  readonly track: Track;
  readonly knowledge: Knowledge;
  readonly habits: Habits;
  readonly numbers: Readonly<Record<N, number>>;
}

interface Common<N extends string> {
  readonly id: string;
  readonly group: Group;
  /** What is not as it should be, as a heading. */
  readonly title: string;
  readonly needs?: readonly Need[];
  readonly severity: Severity | 'off';
  readonly numbers?: Readonly<Record<N, NumberOf>>;
}

/** Looks at one cue with its neighbours, so that an edit makes it look again at those around it alone. */
export interface CueCheck<N extends string = string> extends Common<N> {
  readonly look: (view: CueView, given: Given<N>) => Found | readonly Found[] | null;
  /** The commands that may mend it; none where there is nothing to be done. */
  readonly mend?: (view: CueView, given: Given<N>, found: Found) => readonly ClientCommand[];
  /** What would mend it is a guess, to be looked at one by one. */
  readonly isGuess?: boolean;
}

/** Looks at the track as a whole. */
export interface TrackCheck<N extends string = string> extends Common<N> {
  readonly lookAtAll: (
    views: readonly CueView[],
    given: Given<N>
  ) => readonly (Found & { readonly view: CueView | null })[];
}

export type Check = CueCheck | TrackCheck;

/** For its types alone: the names of the numbers are known where a check is written. */
export const defineCheck = <N extends string>(check: CueCheck<N>): Check => check;
export const defineTrackCheck = <N extends string>(check: TrackCheck<N>): Check => check;

export const seconds = (ms: number): string => `${(ms / 1000).toFixed(2)} s`;
