import { describe, expect, test } from 'vitest';
import { trackOfLines } from '../testing/fonts';
import { makeCue, makeSpeaker, type Track } from '../track';
import { findFormat, formatWebVtt, parseWebVtt, remarksOn, USUAL_OPTIONS } from '.';

const OPTIONS = { ...USUAL_OPTIONS, title: '', durationMs: 60_000 };
const dressed = (): Track => {
  const track = trackOfLines(['Good evening'], {
    ...{ color: '#ffee00', face: 'zilla', align: 'start', placement: 'top left' },
    box: { kind: 'block', opacity: 0.5 },
    outline: { color: '#000000', widthEm: 0.1 },
    motion: { come: 'fade' }
  });
  return { ...track, speakers: [{ ...makeSpeaker('s', 'Ada "the" Wren'), look: { color: '#88ccff' } }] };
};

describe('WebVTT', () => {
  test('carries colours by a STYLE block, places and alignment by settings', () => {
    const text = formatWebVtt(dressed());
    expect(text).toContain(
      'STYLE\n::cue { color: #ffee00; background-color: rgba(15, 17, 14, 0.5); }\n::cue(v[voice="Ada \\"the\\" Wren"]) { color: #88ccff; }\n\n'
    );
    expect(text).toContain('00:05.000 line:0 position:5% align:start\nGood evening');
    expect(formatWebVtt(trackOfLines(['Good evening'], { align: 'end' }))).toContain('00:05.000 align:end\n');
  });

  test('as the house’s look is has no block, and one that was read back is not written twice', () => {
    expect(formatWebVtt(trackOfLines(['Good evening']))).not.toContain('STYLE');
    const text = formatWebVtt(dressed());
    const { carried } = parseWebVtt(text);
    const again = formatWebVtt({ ...dressed(), carried });
    expect(again.split('STYLE')).toHaveLength(2);
  });
});

describe('what a format cannot say', () => {
  const codes = (track: Track, format: string): string[] =>
    remarksOn(track, findFormat(format)!, OPTIONS).map(({ code }) => code);

  test('is told in words: of SRT all of it, of WebVTT what players have no way to show', () => {
    expect(codes(dressed(), 'srt')).toEqual(['look_not_carried', 'place_not_carried', 'motion_not_carried']);
    expect(codes(dressed(), 'vtt')).toEqual(['look_not_carried', 'motion_not_carried']);
    expect(remarksOn(dressed(), findFormat('vtt')!, OPTIONS)[0]!.message).toBe(
      'WebVTT does not carry the typeface and outlines: players show their own.'
    );
    expect(remarksOn(dressed(), findFormat('srt')!, OPTIONS)[0]!.message).toContain('colours');
  });

  test('names the cues that have a look of their own, and says nothing of what is as usual', () => {
    const track = trackOfLines(['Good evening']);
    const own = {
      ...track,
      cues: [
        ...track.cues.map((cue) => ({ ...cue, look: { italic: true } })),
        makeCue({ id: 'placed', startMs: 6000, endMs: 7000, wordIds: [], placement: 'top left' })
      ]
    };
    expect(remarksOn(own, findFormat('vtt')!, OPTIONS)).toMatchObject([
      { code: 'own_looks_not_carried', cueIds: ['c'] }
    ]);
    expect(remarksOn(own, findFormat('srt')!, OPTIONS)).toMatchObject([{ cueIds: ['c', 'placed'] }]);
    for (const format of ['srt', 'vtt', 'txt', 'pdf']) expect(codes(track, format)).toEqual([]);
    expect(codes(dressed(), 'txt')).toEqual([]);
  });

  test('of words: who speaks where there is no room for it, marks where programs take text alone', () => {
    const plain = trackOfLines(['Good evening']);
    const spoken = {
      ...plain,
      speakers: [makeSpeaker('s', 'Ada')],
      words: plain.words.map((word) => ({
        ...word,
        speakerId: 's',
        marks: [{ kind: 'i' as const, from: 0, to: 2 }]
      }))
    };
    const wordCodes = (format: string): string[] =>
      codes(spoken, format).filter((code) => code === 'marks_not_carried' || code === 'voices_not_carried');
    expect(['vtt', 'ttml', 'csv', 'json', 'txt'].flatMap(wordCodes)).toEqual([]);
    for (const format of ['srt', 'stl', 'scc']) expect(wordCodes(format), format).toEqual(['voices_not_carried']);
    expect(wordCodes('otio')).toEqual(['marks_not_carried']);
    expect(wordCodes('edl')).toEqual(['marks_not_carried', 'voices_not_carried']);
  });
});
