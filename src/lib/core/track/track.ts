/**
 * A track: one language version of a recording's captions. Its words are the single truth, its cues are runs of
 * those words on screen. The schemas are the types: what a request, a file or a database row holds is checked by them.
 */
import { z } from 'zod';
import { MOST_ITEMS, type ChangeOf, changesSchemaOf, type Shape } from '../changes';
import { asCueId, cueIdSchema, idSchema, asTrackId, trackIdSchema, asWordId, wordIdSchema } from '../id';
import { wholeMs, msSchema } from '../time';
import { languageSchema } from './language';
import { HOUSE_LOOK, lookOverridesSchema, lookSchema, placementSchema } from './look';
import { sheetSchema } from './sheet';

/** Part of a word set in italics, bold or underlined: `from <= offset < to`, in UTF-16 units of its text. */
export const markSchema = z
  .object({ kind: z.enum(['i', 'b', 'u']), from: z.int().min(0), to: z.int().min(1) })
  .readonly();
export type Mark = z.infer<typeof markSchema>;
export type MarkKind = Mark['kind'];

export const wordSchema = z
  .object({
    id: wordIdSchema,
    /** As written, with its punctuation; no white space, except in a described sound. Never empty. */
    text: z.string().min(1),
    startMs: msSchema,
    /** Never before `startMs`. */
    endMs: msSchema,
    /** 0 to 1 as the recogniser holds it; `null` when typed or read from a file. */
    confidence: z.number().min(0).max(1).nullable(),
    /** What else the recogniser could have meant, best first. */
    alternatives: z.array(z.string()).readonly(),
    speakerId: idSchema.nullable(),
    /** How its time is known: heard by a recogniser, fitted to the sound, or estimated from its cue. */
    timing: z.enum(['heard', 'fitted', 'estimated']),
    /** Milliseconds since 1970 of the last correction by hand; `null` while as drafted. */
    correctedAt: z.int().nullable(),
    /** A described sound, as in `[bell strikes]`; a hole is a stretch that the recogniser could not hear, never shown. */
    kind: z.enum(['speech', 'sound', 'hole']),
    /** False: heard but left out of the captions. */
    shown: z.boolean(),
    manner: z.enum(['spoken', 'sung', 'off screen']),
    marks: z.array(markSchema).readonly(),
    /** False where the script sets no space before it. */
    spaceBefore: z.boolean(),
    /** Where it differs from the track's. */
    language: languageSchema.nullable(),
    /** Begins a paragraph of the page. */
    startsParagraph: z.boolean()
  })
  .readonly();
export type Word = z.infer<typeof wordSchema>;

/** Formats whose own words a track carries, to write them again. */
const carriedFormatSchema = z.enum(['vtt']);

/** How far a cue of a translation is. One without words, that is not done, is empty, whatever stands here. */
export const translationSchema = z
  .object({
    /** Drafted, not by hand: it may be overwritten; written by hand; or done. */
    state: z.enum(['machine', 'mine', 'done']),
    /**
     * What the source said when it was made of it: it tells that the source has changed since, and how. A text rather
     * than its hash, for those of cues that are merged or broken anew join.
     */
    sourceText: z.string()
  })
  .readonly();
export type Translation = z.infer<typeof translationSchema>;

export const cueSchema = z
  .object({
    id: cueIdSchema,
    startMs: msSchema,
    /** Exclusive, after `startMs`. */
    endMs: msSchema,
    /** A contiguous run of the track's words; may be empty. */
    wordIds: z.array(wordIdSchema).readonly(),
    /** The words that begin the second and further lines, in order; a subset of `wordIds`, never the first shown one. */
    lineStarts: z.array(wordIdSchema).readonly(),
    /** `null`: where the track's look puts it. */
    placement: placementSchema.nullable(),
    /** Values of the look that are its own, but for where it stands. */
    look: lookOverridesSchema.nullable().default(null),
    /** What the file it came from said of it in that format's own words, kept until it is placed by hand. */
    carried: z
      .object({ format: carriedFormatSchema, settings: z.string().max(10_000) })
      .readonly()
      .nullable(),
    /** Breaking anew, easing and sync leave it alone. */
    locked: z.boolean(),
    bookmark: z.boolean(),
    note: z.string(),
    /** In a translation: the cues it translates. */
    sourceCueIds: z.array(cueIdSchema).readonly(),
    /** `null` where it is no translation. */
    translation: translationSchema.nullable().default(null)
  })
  .readonly();
export type Cue = z.infer<typeof cueSchema>;

export const speakerSchema = z
  .object({
    id: idSchema,
    name: z.string().min(1).max(200),
    /** Values of the look that all that they say has. */
    look: lookOverridesSchema.nullable().default(null)
  })
  .readonly();
export type Speaker = z.infer<typeof speakerSchema>;

/** A house's numbers. Hard limits, where the words allow them at all. */
export const rulesSchema = z
  .object({
    maxLines: z.int().min(1).max(5),
    /** In grapheme clusters, without markup. */
    maxCharsPerLine: z.int().min(1).max(200),
    /** Over the lines joined by one space. */
    maxCharsPerSecond: z.number().min(1).max(100),
    minDurationMs: z.int().min(1).max(60_000),
    maxDurationMs: z.int().min(100).max(600_000),
    minGapMs: z.int().min(0).max(5000),
    /** How long a cue may stay after its last word, where there is room. */
    lingerMs: z.int().min(0).max(10_000),
    oneWordPerCue: z.boolean(),
    /** Whether a change of speaker may fall within a cue, and what each voice begins with there; `never` shows dashes too, `plain` none. */
    sharedCues: z.enum(['never', 'dash', 'name', 'plain']).default('never')
  })
  .readonly();
export type Rules = z.infer<typeof rulesSchema>;
export const HOUSE_RULES: Rules = {
  maxLines: 2,
  maxCharsPerLine: 42,
  maxCharsPerSecond: 20,
  minDurationMs: 1000,
  maxDurationMs: 7000,
  minGapMs: 80,
  lingerMs: 500,
  oneWordPerCue: false,
  sharedCues: 'never'
};

const namesSchema = z.array(z.string().max(1000)).max(10_000).readonly();

/** A kept look or sheet by its name; each change of it is a version of its own. */
export const keptSourceSchema = z.object({ name: z.string().min(1).max(100), version: z.int().min(0) }).readonly();

export const trackSchema = z
  .object({
    id: trackIdSchema,
    recordingId: idSchema,
    language: languageSchema,
    kind: z.enum(['captions', 'subtitles']),
    title: z.string().max(300),
    state: z.enum(['draft', 'ready', 'handed over']),
    sourceTrackId: trackIdSchema.nullable(),
    /** In reading order: within a cue starts do not decrease, and the order follows the cues. */
    words: z.array(wordSchema).max(MOST_ITEMS).readonly(),
    /** Sorted by start, then end, then id. May overlap. */
    cues: z.array(cueSchema).max(MOST_ITEMS).readonly(),
    speakers: z.array(speakerSchema).readonly(),
    look: lookSchema,
    /** The kept look that its look was taken from, in the version that it had. */
    lookFrom: keptSourceSchema.nullable().default(null),
    rules: rulesSchema,
    /** By what it is checked. */
    sheet: sheetSchema.default({}),
    /** The house's sheet that its own was taken from, in the version that it had. */
    sheetFrom: keptSourceSchema.nullable().default(null),
    /** Names and phrases that were expected when its words were broken into cues: they are not parted without need. */
    names: namesSchema.default([]),
    /** What the file it came from held besides cues (styles, regions, notes), written again into that format. */
    carried: z
      .object({ format: carriedFormatSchema, header: z.string(), blocks: z.array(z.string()).readonly() })
      .readonly()
      .nullable()
  })
  .readonly();
export type Track = z.infer<typeof trackSchema>;

function changingFields() {
  const { language, kind, title, state, speakers, look, rules, carried } = trackSchema.unwrap().shape;
  // Without their defaults: a change that does not speak of them leaves them.
  const from = keptSourceSchema.nullable();
  return {
    ...{ language, kind, title, state, speakers, look, lookFrom: from, rules, sheet: sheetSchema, sheetFrom: from },
    ...{ names: namesSchema, carried }
  };
}

/** The parts of a track that changes may touch: its lists item by item, its fields as a whole. */
export const trackShape = {
  lists: { words: wordSchema.unwrap(), cues: cueSchema.unwrap() },
  fields: changingFields()
} satisfies Shape;
export type TrackChange = ChangeOf<typeof trackShape>;
export const trackChangesSchema = changesSchemaOf(trackShape);

/** Words and cues before their ids and times are known to be such. */
type PlainWord = z.input<typeof wordSchema>;
type PlainCue = z.input<typeof cueSchema>;

/** A spoken word with the given fields, and defaults for the rest. */
export function makeWord(
  word: Pick<PlainWord, 'id' | 'text' | 'startMs' | 'endMs' | 'timing'> & Partial<PlainWord>
): Word {
  // Keys stand in the schema's order: a track is compared and stored as its bytes.
  return {
    id: asWordId(word.id),
    text: word.text,
    startMs: wholeMs(word.startMs),
    endMs: wholeMs(word.endMs),
    confidence: word.confidence ?? null,
    alternatives: word.alternatives ?? [],
    speakerId: word.speakerId ?? null,
    timing: word.timing,
    correctedAt: word.correctedAt ?? null,
    kind: word.kind ?? (isSoundText(word.text) ? 'sound' : 'speech'),
    shown: word.shown ?? true,
    manner: word.manner ?? 'spoken',
    marks: word.marks ?? [],
    spaceBefore: word.spaceBefore ?? true,
    language: word.language ?? null,
    startsParagraph: word.startsParagraph ?? false
  };
}

export function makeCue(cue: Pick<PlainCue, 'id' | 'startMs' | 'endMs' | 'wordIds'> & Partial<PlainCue>): Cue {
  return {
    id: asCueId(cue.id),
    startMs: wholeMs(cue.startMs),
    endMs: wholeMs(cue.endMs),
    wordIds: cue.wordIds.map(asWordId),
    lineStarts: (cue.lineStarts ?? []).map(asWordId),
    placement: cue.placement ?? null,
    look: cue.look ?? null,
    carried: cue.carried ?? null,
    locked: cue.locked ?? false,
    bookmark: cue.bookmark ?? false,
    note: cue.note ?? '',
    sourceCueIds: (cue.sourceCueIds ?? []).map(asCueId),
    translation: cue.translation ?? null
  };
}

/** A track with the given fields, and defaults for the rest. */
export function makeTrack(
  track: Pick<Track, 'recordingId' | 'language' | 'title' | 'words' | 'cues'> &
    Partial<Omit<Track, 'id'>> & { readonly id: string }
): Track {
  return {
    id: asTrackId(track.id),
    recordingId: track.recordingId,
    language: track.language,
    kind: track.kind ?? 'captions',
    title: track.title,
    state: track.state ?? 'draft',
    sourceTrackId: track.sourceTrackId ?? null,
    words: track.words,
    cues: track.cues,
    speakers: track.speakers ?? [],
    look: track.look ?? HOUSE_LOOK,
    lookFrom: track.lookFrom ?? null,
    rules: track.rules ?? HOUSE_RULES,
    sheet: track.sheet ?? {},
    sheetFrom: track.sheetFrom ?? null,
    names: track.names ?? [],
    carried: track.carried ?? null
  };
}

export const makeSpeaker = (id: string, name: string): Speaker => ({ id, name, look: null });

/** A described sound is written in square brackets. */
export const isSoundText = (text: string): boolean => /^\[[^[\]]*\][.,!?]*$/u.test(text);

/** The order of cues: start, then end, then id. */
export function compareCues(a: Cue, b: Cue): number {
  return a.startMs - b.startMs || a.endMs - b.endMs || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}
