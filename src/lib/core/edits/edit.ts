/**
 * Every change to a track, as plain data. Edits that create things carry the ids and the time of day they use, minted
 * by the caller (`completeEdit` fills what was left out): applied twice to the same track they give the same bytes.
 */
import { z } from 'zod';
import {
  cueSchema,
  idSchema,
  lookSchema,
  placementSchema,
  rulesSchema,
  speakerSchema,
  trackSchema,
  wordSchema
} from '../track';

const ms = z
  .int()
  .min(0)
  .max(1000 * 3_600_000);
const text = z.string().max(200_000);
const newWordIds = z.array(idSchema).max(100_000).readonly().optional();
const wordIds = z.array(idSchema).min(1).max(100_000).readonly();
const lines = z.array(text).max(100).readonly();
/** Where each word of the new text was heard; left out, new words share the time of those they replace. */
const times = z
  .array(z.object({ startMs: ms, endMs: ms }).readonly())
  .max(100_000)
  .readonly()
  .optional();
/** Milliseconds since 1970, for `correctedAt`. */
const atMs = z.int().min(0).optional();

const retiming = {
  shiftMs: z.int().min(-3_600_000_000).max(3_600_000_000),
  speed: z.number().min(0.1).max(10)
};

const clientEdits = [
  z.object({ type: z.literal('setWordText'), wordId: idSchema, text, atMs }),
  /** A contiguous run of words is written anew. A line break in the text begins a paragraph; no text removes the words. */
  z.object({ type: z.literal('replaceWords'), wordIds, text, times, newWordIds, atMs }),
  z.object({ type: z.literal('setWordsShown'), wordIds, shown: z.boolean() }),
  z.object({ type: z.literal('setParagraph'), wordId: idSchema, starts: z.boolean() }),
  z.object({ type: z.literal('setSpeaker'), wordIds, speakerId: idSchema.nullable() }),
  z.object({
    type: z.literal('addSpeaker'),
    name: z.string().trim().min(1).max(200),
    newSpeakerId: idSchema.optional()
  }),
  z.object({ type: z.literal('renameSpeaker'), speakerId: idSchema, name: z.string().trim().min(1).max(200) }),
  z.object({ type: z.literal('setCueTimes'), cueId: idSchema, startMs: ms, endMs: ms }),
  /** The same for many cues at once: moved together, eased, laid on their words. */
  z.object({
    type: z.literal('timeCues'),
    times: z
      .array(z.object({ cueId: idSchema, startMs: ms, endMs: ms }).readonly())
      .min(1)
      .max(100_000)
      .readonly()
  }),
  z.object({ type: z.literal('setCueText'), cueId: idSchema, lines, times, newWordIds, atMs }),
  /** `wordId` begins the second part. */
  z.object({ type: z.literal('splitCue'), cueId: idSchema, wordId: idSchema, newCueId: idSchema.optional() }),
  /** Cues that follow one another; the first one's id stays. */
  z.object({ type: z.literal('mergeCues'), cueIds: z.array(idSchema).min(2).max(1000).readonly() }),
  z.object({
    type: z.literal('addCue'),
    startMs: ms,
    endMs: ms,
    lines,
    times,
    newCueId: idSchema.optional(),
    newWordIds,
    atMs
  }),
  /** Heard words stay, not shown; typed and estimated ones go with the cue. */
  z.object({ type: z.literal('removeCue'), cueId: idSchema }),
  z.object({ type: z.literal('setCuePlacement'), cueId: idSchema, placement: placementSchema.nullable() }),
  z.object({
    type: z.literal('annotateCue'),
    cueId: idSchema,
    locked: z.boolean().optional(),
    bookmark: z.boolean().optional(),
    note: z.string().max(10_000).optional()
  }),
  z.object({ type: z.literal('setLook'), look: lookSchema }),
  z.object({ type: z.literal('setRules'), rules: rulesSchema }),
  z.object({ type: z.literal('setTitle'), title: z.string().max(300) }),
  /** new = old × speed + shift, words with their cues; the range holds the cues that start in `fromMs <= t < toMs`. */
  z.object({ type: z.literal('retime'), ...retiming, fromMs: ms.optional(), toMs: ms.optional() }),
  /** The same piece by piece, all by where the cues stand before: the pieces in order, none overlapping another. */
  z.object({
    type: z.literal('retimePieces'),
    pieces: z
      .array(z.object({ ...retiming, fromMs: ms, toMs: ms }).readonly())
      .min(1)
      .max(1000)
      .readonly()
  }),
  /** The cues made anew, whole, over the words there are. */
  z.object({ type: z.literal('setCues'), cues: z.array(cueSchema).max(100_000).readonly(), rules: rulesSchema })
] as const;

/** Where a stretch is put back: behind the item `afterId`, which stood at `at` - 1; others may have come before it since. */
const stretch = {
  at: z.int().min(0),
  afterId: idSchema.nullable().optional(),
  removeIds: z.array(idSchema).readonly()
};

const serverEdits = [
  /** What was heard meanwhile is put in where its time puts it: cues with the words in and beside them, or words alone. */
  z.object({
    type: z.literal('addHeard'),
    parts: z
      .array(z.object({ cue: cueSchema.nullable(), words: z.array(wordSchema).min(1).readonly() }).readonly())
      .min(1)
      .readonly(),
    speakers: z.array(speakerSchema).readonly()
  }),
  /** A contiguous run of words gives way to what a new hearing heard there; of `words` those that stand in the run stay. */
  z.object({ type: z.literal('takeHearing'), wordIds, words: z.array(wordSchema).max(100_000).readonly() }),
  /** The exact inverse of any edit: stretches put back as they were. */
  z.object({
    type: z.literal('restore'),
    words: z.object({ ...stretch, put: z.array(wordSchema).readonly() }).optional(),
    cues: z.object({ ...stretch, put: z.array(cueSchema).readonly() }).optional(),
    fields: z
      .object({
        speakers: z.array(speakerSchema).readonly(),
        look: lookSchema,
        rules: rulesSchema,
        title: trackSchema.unwrap().shape.title
      })
      .partial()
  })
] as const;

/** What a caller may send. */
export const clientEditSchema = z.discriminatedUnion('type', clientEdits);
/** What stands in the log. */
export const editSchema = z.discriminatedUnion('type', [...clientEdits, ...serverEdits]);

export type ClientEdit = Readonly<z.infer<typeof clientEditSchema>>;
export type Edit = Readonly<z.infer<typeof editSchema>>;
export type EditOf<T extends Edit['type']> = Extract<Edit, { type: T }>;
export const EDIT_TYPES: readonly Edit['type'][] = [...clientEdits, ...serverEdits].map(
  (schema) => schema.shape.type.value
);

export type EditProblemCode =
  | 'unknown_word'
  | 'unknown_cue'
  | 'unknown_speaker'
  | 'not_contiguous'
  | 'not_adjacent'
  | 'bad_times'
  | 'empty_text'
  | 'word_has_space'
  | 'first_word'
  | 'id_taken'
  | 'ids_missing'
  | 'does_not_fit';

/** Why an edit cannot be applied: to what, and what to do. */
export interface EditProblem {
  readonly code: EditProblemCode;
  readonly message: string;
}

/** What an entry of the log is called in undo and redo. */
export function labelEdits(edits: readonly Edit[]): string {
  const kinds = new Set(edits.map((edit) => LABELS[edit.type]));
  const [only] = kinds;
  return kinds.size === 1 && only !== undefined ? only : 'several changes';
}

const LABELS: Readonly<Record<Edit['type'], string>> = {
  setWordText: 'correct a word',
  replaceWords: 'correct the text',
  setWordsShown: 'show or leave out words',
  setParagraph: 'set a paragraph',
  setSpeaker: 'set the speaker',
  addSpeaker: 'add a speaker',
  renameSpeaker: 'rename a speaker',
  setCueTimes: 'time a cue',
  timeCues: 'time cues',
  setCueText: 'write a cue',
  splitCue: 'split a cue',
  mergeCues: 'merge cues',
  addCue: 'add a cue',
  removeCue: 'delete a cue',
  setCuePlacement: 'place a cue',
  annotateCue: 'mark a cue',
  setLook: 'change the look',
  setRules: 'change the rules',
  setTitle: 'rename the track',
  retime: 'shift and stretch',
  retimePieces: 'shift and stretch',
  setCues: 'break anew',
  addHeard: 'hear on',
  takeHearing: 'take what was heard',
  restore: 'restore'
};
