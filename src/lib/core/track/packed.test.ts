import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyTrack } from '../testing/any-track';
import { packedTrackSchema, packTrack } from '.';

const sent = (packed: unknown): unknown => JSON.parse(JSON.stringify(packed));

describe('a track on its way to the browser', () => {
  test('arrives as it was, to the byte', () => {
    fc.assert(
      fc.property(anyTrack, (track) => {
        const arrived = packedTrackSchema.parse(sent(packTrack(track)));
        expect(arrived).toEqual(track);
        expect(JSON.stringify(arrived)).toBe(JSON.stringify(track));
      })
    );
  });

  test('is refused where fields are of another number than items, or no such fields', () => {
    const [track] = fc.sample(
      anyTrack.filter(({ words }) => words.length > 2),
      1
    );
    const packed = packTrack(track!);
    const { words } = packed;
    for (const wrong of [
      { ...words, count: words.count + 1 },
      { ...words, columns: { ...words.columns, startMs: words.columns.startMs.map(() => -1) } },
      { ...words, columns: { ...words.columns, id: words.columns.id.slice(1) } },
      { ...words, columns: { ...words.columns, timing: ['guessed'] } }
    ])
      expect(packedTrackSchema.safeParse(sent({ ...packed, words: wrong })).success).toBe(false);
  });
});
