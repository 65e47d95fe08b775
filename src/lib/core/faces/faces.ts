import { z } from 'zod';

/** What a face is like, in a word. */
export const faceCharacterSchema = z.enum([
  'for reading',
  'plain',
  'humanist',
  'grotesque',
  'slab',
  'serif',
  'rounded',
  'narrow',
  'narrow and heavy',
  'written by hand',
  'even width',
  'playful',
  'our own',
  'stand-in'
]);
export type FaceCharacter = z.infer<typeof faceCharacterSchema>;

const weights = z.array(z.int().min(100).max(900)).readonly();

/** A typeface and the weights there are of it. */
export const faceSchema = z
  .object({
    id: z.string().regex(/^[a-z0-9-]{1,60}$/),
    name: z.string().min(1).max(200),
    character: faceCharacterSchema,
    /** Sorted, never empty. */
    weights: weights,
    /** In italics; where there are none the upright ones are slanted. */
    italicWeights: weights
  })
  .readonly();
export type Face = z.infer<typeof faceSchema>;

/** The weights of a family from one to another, a hundred apart. */
const from = (least: number, most: number): readonly number[] =>
  Array.from({ length: (most - least) / 100 + 1 }, (_, step) => least + step * 100);

const family = (
  id: string,
  name: string,
  character: FaceCharacter,
  weights: readonly number[],
  hasItalics: boolean
): Face => ({ id, name, character, weights, italicWeights: hasItalics ? weights : [] });

/** All under the SIL Open Font License. Those that only stand in for letters others lack come last. */
export const SHIPPED_FACES: readonly Face[] = [
  family('atkinson', 'Atkinson Hyperlegible Next', 'for reading', from(200, 800), true),
  family('lexend', 'Lexend', 'for reading', from(100, 900), false),
  family('noto', 'Noto Sans', 'plain', from(100, 900), true),
  family('source', 'Source Sans 3', 'humanist', from(200, 900), true),
  family('work', 'Work Sans', 'grotesque', from(100, 900), true),
  family('zilla', 'Zilla Slab', 'slab', from(300, 700), true),
  family('literata', 'Literata', 'serif', from(200, 900), true),
  family('nunito', 'Nunito', 'rounded', from(200, 900), true),
  family('barlow', 'Barlow Condensed', 'narrow', from(100, 900), true),
  family('anton', 'Anton', 'narrow and heavy', [400], false),
  family('caveat', 'Caveat', 'written by hand', from(400, 700), false),
  family('jetbrains', 'JetBrains Mono', 'even width', from(100, 800), true),
  family('fredoka', 'Fredoka', 'playful', from(300, 700), false),
  family('noto-arabic', 'Noto Sans Arabic', 'stand-in', from(100, 900), false),
  family('noto-hebrew', 'Noto Sans Hebrew', 'stand-in', from(100, 900), false),
  family('noto-devanagari', 'Noto Sans Devanagari', 'stand-in', from(100, 900), false),
  family('noto-thai', 'Noto Sans Thai', 'stand-in', from(100, 900), false),
  family('noto-jp', 'Noto Sans JP', 'stand-in', from(100, 900), false),
  family('noto-kr', 'Noto Sans KR', 'stand-in', from(100, 900), false),
  family('noto-sc', 'Noto Sans SC', 'stand-in', from(100, 900), false),
  family('noto-emoji', 'Noto Emoji', 'stand-in', from(300, 700), false),
  family('noto-signs', 'Noto Sans Math', 'stand-in', [400], false)
];

export const DEFAULT_FACE_ID = 'atkinson';

/** The face of an id; one that is not there, or is gone, is drawn in the default one. */
export const findFace = (faces: readonly Face[], id: string): Face =>
  faces.find((face) => face.id === id) ?? SHIPPED_FACES[0]!;
