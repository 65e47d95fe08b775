/** What a check finds, and what it is given to look at. */
import { z } from 'zod';
import { cueIdSchema, wordIdSchema, type CueId, type WordId } from '../id';
import type { Doubt } from '../doubts';
import type { GlossaryTerm } from '../translating';
import { msSchema, type ReckonedSpan, type Span } from '../time';
import { SEVERITIES, type Cue, type Track, type Word } from '../track';

export const GROUPS = ['words', 'reading', 'timing', 'picture', 'sound', 'file'] as const;
export type Group = (typeof GROUPS)[number];

/** What must be known of the recording, or of another track, before a check can be made. */
export type Need = 'speech' | 'shots' | 'sounds' | 'contrast' | 'doubts' | 'dictionary' | 'source';

/** Why a check could not be made, by what is missing. */
export const MISSING: Readonly<Record<Need, string>> = {
  speech: 'Where there is speech is not known yet.',
  shots: 'There is no picture, or where it changes is not known yet.',
  sounds: 'What sounds there are is not known yet.',
  contrast: 'The light of the picture is not measured.',
  doubts: 'The wording has not been gone through yet.',
  dictionary: 'There is no dictionary of this language.',
  source: 'The track that it translates is gone.'
};

/** How a cue lies on the picture. */
export interface OnPicture {
  /** Its contrast at worst (WCAG 2.2), 1 to 21. */
  readonly worst: number;
  readonly isLarge: boolean;
  /** On lettering of the picture, as far as that can be told. */
  readonly isOverLettering: boolean;
}

/** What is known beside the track; `null` where it is not there, and no check that needs it passes. */
export interface Knowledge {
  readonly durationMs: number;
  readonly frameMs: number;
  /** Stretches of speech, in order. */
  readonly speech: readonly ReckonedSpan[] | null;
  /** When the picture changes, in order. */
  readonly shotsMs: readonly number[] | null;
  /** Loud stretches without speech, in order. */
  readonly sounds: readonly ReckonedSpan[] | null;
  /** Of each cue that shows words. */
  readonly contrast: ReadonlyMap<CueId, OnPicture> | null;
  /** Doubts about wording that nobody has judged yet, by the first of their words. */
  readonly doubts: ReadonlyMap<WordId, Doubt> | null;
  /** Whether doubts go by a dictionary of the track's language. */
  readonly isSpelled: boolean;
  /** The track that this one translates. */
  readonly source: Track | null;
  /** The house's, from the source's language into the track's. */
  readonly terms: readonly GlossaryTerm[];
}

/** Nothing is known but how long the recording is. */
export const knowOnly = (durationMs: number): Knowledge => ({
  ...{ durationMs, frameMs: 40, speech: null, shotsMs: null, sounds: null },
  ...{ contrast: null, doubts: null, isSpelled: false, source: null, terms: [] }
});

/** A cue with what it shows. */
export interface ShownCue {
  readonly cue: Cue;
  /** Those that are shown. */
  readonly words: readonly Word[];
  /** As they are shown, with the signs of the voices. */
  readonly lines: readonly (readonly Word[])[];
  readonly texts: readonly string[];
  /** The lines joined by spaces. */
  readonly text: string;
  readonly characters: number;
  readonly lengthMs: number;
}

/** A cue with its neighbours: all that a check of one cue may look at. */
export interface CueView extends ShownCue {
  readonly before: ShownCue | null;
  readonly next: ShownCue | null;
}

/** One thing that a check has found, before it is known which check it was. */
export interface Found {
  /** A sentence with the figure and the limit. */
  readonly message: string;
  readonly value?: number;
  readonly limit?: number;
  /** The word that it is about, where it is about one. */
  readonly word?: Word;
  /** Where it lies, if not on the whole cue. */
  readonly span?: Span;
}

export const findingSchema = z
  .object({
    /** Made of the rule, the cue and its text: what was let stand is known again while the text stays. */
    key: z.string(),
    rule: z.string(),
    group: z.enum(GROUPS),
    severity: z.enum(SEVERITIES),
    /** `null` where no cue is meant: a stretch of speech without any, the track itself. */
    cueId: cueIdSchema.nullable(),
    wordId: wordIdSchema.nullable(),
    startMs: msSchema,
    endMs: msSchema,
    message: z.string(),
    value: z.number().nullable(),
    limit: z.number().nullable(),
    /** Something is known that may mend it. */
    fixable: z.boolean()
  })
  .readonly();
export type Finding = z.infer<typeof findingSchema>;

export type CueFinding = Finding & { readonly cueId: CueId };
