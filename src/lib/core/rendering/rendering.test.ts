import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { parseWebVtt } from '../formats';
import { asTrackId } from '../id';
import { trackOfLines } from '../testing/fonts';
import { toSpan } from '../time';
import { makeCue, type LookOverrides, type Track } from '../track';
import {
  ASPECTS,
  captionChanges,
  captionsInside,
  estimateBytes,
  FITS,
  renderRequestSchema,
  shapePicture,
  shapeRatio,
  soundCodecFor,
  unfitFor,
  waveAt,
  type RenderRequest
} from '.';
import { flatten } from './inside';

describe('when captions change', () => {
  const frames = (count: number, rate: number, fromMs = 0): number[] =>
    Array.from({ length: count }, (_, at) => fromMs + (at * 1000) / rate);
  const trackOf = (look: LookOverrides, cues: readonly [number, number][]): Track => {
    const track = trackOfLines(['one two three'], look);
    return {
      ...track,
      cues: cues.map(([startMs, endMs], at) =>
        makeCue({ id: `c${at}`, startMs, endMs, wordIds: at === 0 ? track.words.map(({ id }) => id) : [] })
      )
    };
  };

  test('between the two frames that differ, once each, beginning with what is there first', () => {
    const track = trackOf({}, [[1000, 2000]]);
    const changes = [...captionChanges(track, frames(100, 25))];
    expect(changes.map(({ atMs, seen }) => [atMs, seen.length])).toEqual([
      [0, 0],
      [980, 1],
      [1980, 0]
    ]);
  });

  test('at every frame they are as the preview has them, whatever the rate and wherever it starts', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(12, 23.976, 25, 29.97, 60),
        fc.constantFrom(0, 37, 500, 5000),
        fc.integer({ min: 0, max: 3000 }),
        fc.integer({ min: 1, max: 3000 }),
        (rate, fromMs, startMs, lengthMs) => {
          const track = trackOf({ motion: { come: 'fade', follow: 'box' } }, [[startMs, startMs + lengthMs]]);
          const times = frames(200, rate, fromMs);
          const changes = [...captionChanges(track, times)];
          for (const time of times) {
            const now = changes.findLast(({ atMs }) => atMs <= time)!;
            const isThere = Math.round(time) >= startMs && Math.round(time) < startMs + lengthMs;
            expect(now.seen.length, `${time}`).toBe(isThere ? 1 : 0);
          }
          const at = changes.map(({ atMs }) => atMs);
          expect(at).toEqual([...at].sort((a, b) => a - b));
        }
      )
    );
  });

  test('word by word where they follow the voice, at every frame while they fade', () => {
    const words = [...captionChanges(trackOf({ motion: { follow: 'appear' } }, [[0, 2000]]), frames(100, 25))];
    expect(words.map(({ seen }) => seen[0]?.state.shownWords ?? 0)).toEqual([1, 2, 3, 0]);
    const fading = [
      ...captionChanges(trackOf({ motion: { come: 'fade', lengthMs: 400 } }, [[0, 2000]]), frames(100, 25))
    ];
    expect(fading.length).toBe(10 + 2);
  });

  test('without frames, or without cues, there is one picture, of nothing', () => {
    expect([...captionChanges(trackOf({}, [[0, 10]]), [])]).toMatchObject([{ atMs: 0, seen: [] }]);
    expect([...captionChanges(trackOf({}, []), frames(50, 25))]).toMatchObject([{ atMs: 0, seen: [] }]);
    // A waveform behind them goes on all the same.
    const waved = [...captionChanges(trackOf({}, []), frames(50, 25), (ms) => JSON.stringify(waveAt(ms)))];
    expect(waved.map(({ frameMs }) => frameMs)).toEqual([
      0, 160, 280, 400, 520, 640, 760, 880, 1000, 1160, 1280, 1400, 1520, 1640, 1760, 1880
    ]);
  });
});

describe('the shape of a picture', () => {
  test('has even sides, keeps to its ratio, and takes from within the source', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 64, max: 8192 }),
        fc.integer({ min: 64, max: 4320 }),
        fc.constantFrom(1, 4 / 3, 0.75),
        fc.constantFrom(...ASPECTS),
        fc.constantFrom(...FITS),
        fc.option(fc.integer({ min: 64, max: 2160 }), { nil: undefined }),
        (width, height, pixelAspect, aspect, fit, lines) => {
          const { crop, at, ...made } = shapePicture({ width, height, pixelAspect }, { aspect, fit, height: lines });
          expect([made.width % 2, made.height % 2]).toEqual([0, 0]);
          const ratio = shapeRatio(aspect) ?? (width * pixelAspect) / height;
          expect(Math.abs(made.width - made.height * ratio)).toBeLessThanOrEqual(2 + 2 * ratio);
          for (const [area, whole] of [
            [crop, { width, height }],
            [at, made]
          ] as const) {
            expect(Math.min(area.x, area.y)).toBeGreaterThanOrEqual(0);
            expect(area.x + area.width).toBeLessThanOrEqual(whole.width);
            expect(area.y + area.height).toBeLessThanOrEqual(whole.height);
          }
          if (fit === 'crop') expect(at).toMatchObject({ x: 0, y: 0, width: made.width, height: made.height });
          else expect(crop).toEqual({ x: 0, y: 0, width, height });
        }
      )
    );
  });

  test('made upright keeps its shorter side', () => {
    const source = { width: 1280, height: 720, pixelAspect: 1 };
    const upright = shapePicture(source, { aspect: '9:16', fit: 'crop' });
    expect(upright).toMatchObject({ width: 720, height: 1280, crop: { x: 438, y: 0, width: 405, height: 720 } });
    const padded = shapePicture(source, { aspect: '9:16', fit: 'pad' });
    expect(padded).toMatchObject({ width: 720, height: 1280, at: { x: 0, y: 436, width: 720, height: 406 } });
    expect(shapePicture(source, {})).toMatchObject({ width: 1280, height: 720 });
  });
});

describe('what is asked for', () => {
  const request: RenderRequest = { captions: 'burned', container: 'mp4', trackId: asTrackId('t') };

  test('is refused where the container, the codec and the captions do not go together', () => {
    const wrong: Partial<RenderRequest>[] = [
      { container: 'wav' },
      { video: { codec: 'copy' } },
      { container: 'webm', video: { codec: 'h264' } },
      { container: 'mov', video: { codec: 'vp9' } }
    ];
    for (const change of wrong) expect(unfitFor({ ...request, ...change })).toMatch(/\.$/);
    expect(unfitFor(request)).toBe(null);
    expect(unfitFor({ ...request, captions: 'none', container: 'wav' })).toBe(null);
    expect(renderRequestSchema.safeParse({ ...request, video: { codec: 'h264', height: 10 } }).success).toBe(false);
  });

  test('copies the sound where it can, encodes it where it cannot or somebody asks for it', () => {
    const whole = { source: 'aac', isWhole: true };
    expect(soundCodecFor({ captions: 'burned', container: 'mp4' }, whole)).toBe('copy');
    expect(soundCodecFor({ captions: 'burned', container: 'mp4' }, { ...whole, isWhole: false })).toBe('aac');
    expect(soundCodecFor({ captions: 'burned', container: 'webm' }, { source: 'opus', isWhole: true })).toBe('opus');
    expect(soundCodecFor({ captions: 'inside', container: 'webm' }, { source: 'opus', isWhole: true })).toBe('copy');
    expect(soundCodecFor({ captions: 'burned', container: 'mp4', audio: { codec: 'mp3' } }, whole)).toBe('mp3');
  });

  test('is guessed larger for more quality, more lines and more time', () => {
    const facts = { width: 1280, height: 720, frameRate: 25, lengthMs: 60_000, sourceBytesPerMs: 100 };
    const bytes = estimateBytes(request, facts);
    expect(estimateBytes(request, { ...facts, lengthMs: 120_000 })).toBeCloseTo(2 * bytes, -2);
    expect(estimateBytes({ ...request, video: { codec: 'h264', quality: 72 } }, facts)).toBeGreaterThan(bytes);
    expect(estimateBytes({ ...request, video: { codec: 'av1' } }, facts)).toBeLessThan(bytes);
    expect(estimateBytes({ ...request, video: { codec: 'h264', kbps: 800 } }, facts)).toBe(6_000_000 + 1_200_000);
  });
});

describe('captions inside a file', () => {
  const titleOf = ({ language }: Track): string => language;
  const tracks = [
    trackOfLines(['<i>One</i> & two']),
    { ...trackOfLines(['Eins']), id: asTrackId('de'), language: 'de-AT' }
  ];
  const two = [
    { ...tracks[0]!, kind: 'captions' as const },
    { ...tracks[1]!, kind: 'subtitles' as const }
  ];

  test('are marked as they are asked, else the first is shown and captions are for those who do not hear', () => {
    expect(captionsInside(two, 'mkv', {}, titleOf)).toMatchObject([
      { language: 'eng', isDefault: true, isForced: false, isForHearingImpaired: true, codec: 'subrip' },
      { language: 'deu', isDefault: false, isForced: false, isForHearingImpaired: false, title: 'de-AT' }
    ]);
    const marks = { defaultTrackId: null, forcedTrackIds: [asTrackId('de')], hearingImpairedTrackIds: [] };
    expect(captionsInside(two, 'mp4', marks, titleOf)).toMatchObject([
      { isDefault: false, isForced: false, isForHearingImpaired: false, codec: 'mov_text' },
      { isDefault: false, isForced: true }
    ]);
    expect(captionsInside([{ ...two[0]!, language: 'x-own' }], 'mp4', {}, titleOf)[0]!.language).toBe('und');
  });

  test('of a web file have no block that is no cue', () => {
    const colored = { ...two[0]!, look: { ...two[0]!.look, color: '#ffee00' } };
    const [{ content } = { content: '' }] = captionsInside([colored], 'webm', {}, titleOf);
    expect(content).toMatch(/^WEBVTT\n\n\d\d:/);
    expect(parseWebVtt(content).cues).toHaveLength(colored.cues.length);
  });

  test('stand one at a time where they overlap, and everything is said for as long as it was', () => {
    const times = fc.tuple(fc.nat(3000), fc.integer({ min: 1, max: 900 }));
    fc.assert(
      fc.property(fc.array(times, { maxLength: 8 }), (spans) => {
        const cues = spans
          .toSorted(([a], [b]) => a - b)
          .map(([startMs, lengthMs], at) => ({
            ...toSpan({ startMs, endMs: startMs + lengthMs }),
            lines: [String(at)]
          }));
        const flat = flatten(cues);
        flat.forEach(({ startMs, endMs }, at) => {
          expect(startMs).toBeLessThan(endMs);
          if (at > 0) expect(startMs).toBeGreaterThanOrEqual(flat[at - 1]!.endMs);
        });
        cues.forEach(({ startMs, endMs, lines: [name] }) => {
          const said = flat.filter(({ lines }) => lines.includes(name!));
          expect([said[0]!.startMs, said.at(-1)!.endMs]).toEqual([startMs, endMs]);
          expect(said.reduce((sum, one) => sum + one.endMs - one.startMs, 0)).toBe(endMs - startMs);
        });
      })
    );
  });
});
