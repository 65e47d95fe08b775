/**
 * A trim: a version of a recording by its text, shared by all its tracks. Its pieces stand in playing order and count in
 * recorded time. What is taken out stays in the list, marked, so that it can be put back as it was.
 */
import { z } from 'zod';
import { changesSchemaOf, type ChangeOf, type Shape } from '../changes';
import { idSchema } from '../id';
import { msSchema, wholeMs, type Ms } from '../time';

/** A cut made any shorter clicks; what lies behind a longer one is heard. */
export const MOST_FADE_MS = 500;
/** Of a crossfade, where nobody says otherwise. */
export const USUAL_FADE_MS = 8;
/** Two hours cut at every word. */
export const MOST_PIECES = 40_000;
export const MOST_PAUSE_MS = 3_600_000;
export const GAIN_DB = { least: -60, most: 24 };

/** Of the crossfade at its beginning; `null`: the trim's own. */
const fadeSchema = z.int().min(0).max(MOST_FADE_MS).nullable();

const stretchSchema = z.object({
  id: idSchema,
  kind: z.literal('stretch'),
  fromMs: msSchema,
  /** Exclusive, after `fromMs`, not after the recording's end. */
  toMs: msSchema,
  /** Its time passes, and nothing is heard. */
  silent: z.boolean(),
  /** Taken out and closed up, or its time left to the sound of the room. */
  out: z.enum(['no', 'closed', 'gap']),
  gainDb: z.number().min(GAIN_DB.least).max(GAIN_DB.most),
  fadeMs: fadeSchema
});
const pauseSchema = z.object({
  id: idSchema,
  kind: z.literal('pause'),
  lengthMs: msSchema.min(1).max(MOST_PAUSE_MS),
  fadeMs: fadeSchema
});
const pieceSchema = z.discriminatedUnion('kind', [stretchSchema, pauseSchema]);

export type Stretch = Readonly<z.infer<typeof stretchSchema>>;
export type Pause = Readonly<z.infer<typeof pauseSchema>>;
export type Piece = Stretch | Pause;

const titleSchema = z.string().trim().min(1).max(200);
const trimFadeSchema = z.int().min(0).max(MOST_FADE_MS);

export const trimSchema = z
  .object({
    id: idSchema,
    recordingId: idSchema,
    title: titleSchema,
    /** Length of the recording. */
    recordedMs: msSchema,
    /** Of crossfades that have none of their own. */
    fadeMs: trimFadeSchema,
    /** In playing order. Every instant of the recording is in one of them, in some twice. */
    pieces: z.array(pieceSchema.readonly()).max(MOST_PIECES).readonly()
  })
  .readonly();
export type Trim = z.infer<typeof trimSchema>;

export const trimShape = {
  lists: { pieces: pieceSchema },
  fields: { title: titleSchema, fadeMs: trimFadeSchema }
} satisfies Shape;
export type TrimChange = ChangeOf<typeof trimShape>;
export const trimChangesSchema = changesSchemaOf(trimShape);

/** A trim that keeps everything. `pieceId`: of its one piece. */
export const makeTrim = ({
  pieceId,
  ...trim
}: Pick<Trim, 'id' | 'recordingId' | 'title'> & { readonly recordedMs: number; readonly pieceId: string }): Trim => ({
  id: trim.id,
  recordingId: trim.recordingId,
  title: trim.title,
  recordedMs: wholeMs(trim.recordedMs),
  fadeMs: USUAL_FADE_MS,
  pieces: [makeStretch(pieceId, 0, trim.recordedMs)]
});

export const makeStretch = (
  id: string,
  fromMs: number,
  toMs: number,
  own: Partial<Pick<Stretch, 'silent' | 'out' | 'gainDb' | 'fadeMs'>> = {}
): Stretch => ({
  id,
  kind: 'stretch',
  fromMs: wholeMs(fromMs),
  toMs: wholeMs(toMs),
  silent: own.silent ?? false,
  out: own.out ?? 'no',
  gainDb: own.gainDb ?? 0,
  fadeMs: own.fadeMs ?? null
});

/** How long a piece plays; 0 where it is taken out and closed up. */
export const playedMs = (piece: Piece): Ms =>
  piece.kind === 'pause' ? piece.lengthMs : wholeMs(piece.out === 'closed' ? 0 : piece.toMs - piece.fromMs);

/** The first promise that a trim breaks, as a sentence; `null` where it keeps them all. */
export function findBrokenTrim({ pieces, recordedMs }: Trim): string | null {
  const stretches = pieces.filter((piece) => piece.kind === 'stretch');
  if (new Set(pieces.map(({ id }) => id)).size !== pieces.length) return 'two pieces share an id';
  const backward = stretches.find(({ fromMs, toMs }) => toMs <= fromMs || toMs > recordedMs);
  if (backward !== undefined) return `the piece ${backward.id} is empty, backward or beyond the end`;
  const uncovered = uncoveredBy(stretches, recordedMs)[0];
  if (uncovered !== undefined) return `nothing holds ${uncovered.fromMs} to ${uncovered.toMs} ms`;
  const at = pieces.findIndex((piece, place) => place > 0 && isOne(pieces[place - 1]!, piece));
  return at > 0 ? `the pieces ${pieces[at - 1]!.id} and ${pieces[at]!.id} are one` : null;
}

/** What of the recording is in none of the stretches, in order. */
export function uncoveredBy(
  stretches: readonly { readonly fromMs: number; readonly toMs: number }[],
  recordedMs: number
): { readonly fromMs: number; readonly toMs: number }[] {
  const found: { fromMs: number; toMs: number }[] = [];
  let doneMs = 0;
  for (const { fromMs, toMs } of [...stretches].sort((a, b) => a.fromMs - b.fromMs)) {
    if (fromMs > doneMs) found.push({ fromMs: doneMs, toMs: fromMs });
    doneMs = Math.max(doneMs, toMs);
  }
  if (doneMs < recordedMs) found.push({ fromMs: doneMs, toMs: recordedMs });
  return found;
}

/** Two neighbours that play as one. Of what is taken out each part stays what it was. */
export const isOne = (a: Piece, b: Piece): boolean =>
  a.kind === 'stretch' &&
  b.kind === 'stretch' &&
  a.toMs === b.fromMs &&
  a.out === 'no' &&
  b.out === 'no' &&
  a.silent === b.silent &&
  a.gainDb === b.gainDb;
