import { describe, expect, test } from 'vitest';
import { toSpan, type Span } from '../time';
import { HOUSE_LOOK, overrideLook, type Look, type LookOverrides } from '../track';
import {
  BIN_MS,
  binCount,
  contrastOf,
  contrastRatio,
  findMendings,
  FRAME_HEIGHT,
  FRAME_WIDTH,
  isOverLettering,
  legibilityOf,
  LightMeter,
  luminanceOf,
  plainLight,
  type LightMap,
  type TextArea
} from '.';

type Paint = (x: number, y: number, frame: number) => readonly [number, number, number];

/** A map of frames whose pixels are painted by `paint`; `x`, `y` as shares of the picture. */
function mapOf(paint: Paint, frames = 4): LightMap {
  const meter = new LightMeter();
  for (let frame = 0; frame < frames; frame++) {
    const bytes = new Uint8Array(FRAME_WIDTH * FRAME_HEIGHT * 3);
    for (let y = 0; y < FRAME_HEIGHT; y++)
      for (let x = 0; x < FRAME_WIDTH; x++)
        bytes.set(paint(x / FRAME_WIDTH, y / FRAME_HEIGHT, frame), (y * FRAME_WIDTH + x) * 3);
    meter.push(bytes);
  }
  return { bytes: meter.finish() };
}

const grey = (value: number): readonly [number, number, number] => [value, value, value];
const BARE: LookOverrides = { box: { kind: 'none' } };

const area = (look: LookOverrides, place: Partial<TextArea> = {}): TextArea => ({
  ...{ x: 0.25, y: 0.8, width: 0.5, height: 0.1, line: 0 },
  colors: overrideLook(HOUSE_LOOK, look),
  ...place
});
const span = (startMs: number, endMs: number): Span => toSpan({ startMs, endMs });
const during = span(0, 1000);
const near = (ratio: number): unknown => expect.closeTo(ratio, -Math.log10(0.04 * ratio));

describe('contrast', () => {
  test('is as WCAG has it', () => {
    expect(contrastRatio('#000000', '#ffffff')).toBeCloseTo(21);
    expect(contrastRatio('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
    expect(contrastRatio('#ffffff', '#777777')).toBeCloseTo(4.48, 2);
    expect(luminanceOf('#ff0000')).toBeCloseTo(0.2126);
    expect(luminanceOf('#0000ff')).toBeCloseTo(0.0722);
  });

  test('of letters on flat, split, stepped and coloured light, within 2 % of the formula by hand', () => {
    for (const value of [0, 30, 90, 128, 200, 255]) {
      const hex = `#${value.toString(16).padStart(2, '0').repeat(3)}`;
      const { worst, median } = legibilityOf(
        [area({ ...BARE, color: '#ffee00' })],
        during,
        mapOf(() => grey(value))
      )!;
      const byHand = contrastRatio('#ffee00', hex);
      expect(Math.abs(worst / byHand - 1), hex).toBeLessThan(0.02);
      expect(Math.abs(median / byHand - 1), hex).toBeLessThan(0.02);
    }
    const blue = legibilityOf(
      [area(BARE)],
      during,
      mapOf(() => [10, 40, 220])
    )!;
    expect(Math.abs(blue.worst / contrastRatio('#ffffff', '#0a28dc') - 1)).toBeLessThan(0.02);
    // Left of the middle dark, right of it bright: the worst is on the right, the median between.
    const split = legibilityOf(
      [area(BARE)],
      during,
      mapOf((x) => grey(x < 0.5 ? 20 : 230))
    )!;
    expect(Math.abs(split.worst / contrastRatio('#ffffff', '#e6e6e6') - 1)).toBeLessThan(0.02);
    expect(split.poorShare).toBeCloseTo(0.5, 1);
    // From black to white, in steps as wide as a cell.
    const steps = mapOf((x) => grey(Math.floor(x * 32) * 8));
    const stepped = legibilityOf([area(BARE, { x: 0.5, width: 0.25 })], during, steps)!;
    expect(Math.abs(stepped.worst / contrastRatio('#ffffff', '#b8b8b8') - 1)).toBeLessThan(0.02);
  });

  test('of light that moves: the worst of any time, and that it is restless', () => {
    const flash = mapOf((_, __, frame) => grey(frame === 3 ? 250 : 10), 12);
    const dark = legibilityOf([area(BARE)], span(4 * BIN_MS, 6 * BIN_MS), flash)!;
    expect(dark.worst).toBeGreaterThan(18);
    const bright = legibilityOf([area(BARE)], span(0, 4 * BIN_MS), flash)!;
    expect(bright.worst).toBeLessThan(1.1);
    expect(bright.at).toMatchObject({ ms: BIN_MS, line: 0 });
    expect(mapOf(() => grey(9), 9).bytes.length).toBe(mapOf(() => grey(9), 10).bytes.length);
    const flicker = legibilityOf(
      [area(BARE)],
      during,
      mapOf((_, __, frame) => grey(frame % 2 === 0 ? 20 : 235), 8)
    )!;
    expect([flicker.isRestless, dark.isRestless]).toEqual([true, false]);
  });

  test('of a part of a cell: a bright tenth of it is not overlooked', () => {
    const speckled = mapOf((x, y) => grey(Math.floor(x * 320) % 5 === 0 && Math.floor(y * 180) % 2 === 0 ? 240 : 15));
    expect(legibilityOf([area(BARE)], during, speckled)!.worst).toBeLessThan(1.2);
  });

  test('on a box is against what is seen through it, on an outline against that', () => {
    const white = plainLight(1);
    const boxed = (opacity: number) =>
      legibilityOf([area({ box: { kind: 'line', color: '#000000', opacity } })], during, white)!.worst;
    expect(boxed(0.5)).toEqual(near(contrastRatio('#ffffff', '#808080')));
    expect(boxed(1)).toEqual(near(21));
    const outlined = legibilityOf([area({ ...BARE, outline: { color: '#333333', widthEm: 0.06 } })], during, white)!;
    expect(outlined.worst).toEqual(near(contrastRatio('#ffffff', '#333333')));
    const hairline = legibilityOf([area({ ...BARE, outline: { color: '#333333', widthEm: 0.01 } })], during, white)!;
    expect(hairline.worst).toBeCloseTo(1);
  });

  test('where there is no text, or no light is known, there is none', () => {
    expect(legibilityOf([], during, plainLight(1))).toBe(null);
    expect(legibilityOf([area(BARE)], during, { bytes: new Uint8Array() })).toBe(null);
    // A cue past the end of the map is judged by its last light.
    expect(legibilityOf([area(BARE)], span(90_000, 91_000), plainLight(0))!.worst).toEqual(near(21));
    expect(binCount(plainLight(0))).toBe(1);
  });
});

describe('what would mend it', () => {
  const look: Look = overrideLook(HOUSE_LOOK, BARE);
  /** Bright below, dark above. */
  const map = mapOf((_, y) => grey(y < 0.5 ? 10 : 240));
  const areasOf = (tried: Look): readonly TextArea[] => [
    area(
      {},
      { colors: tried, y: tried.placement === 'top centre' ? 0.05 : tried.placement === 'middle centre' ? 0.45 : 0.8 }
    )
  ];

  test('reaches 4.5 : 1 when it is done, and changes as little as it can', () => {
    const mendings = findMendings({ look, during, map, areasOf });
    expect(mendings.map(({ kind }) => kind)).toEqual(['box', 'outline', 'place', 'color']);
    for (const { change, worst } of mendings) {
      const tried = overrideLook(look, change as LookOverrides);
      expect(legibilityOf(areasOf(tried), during, map)!.worst).toBeCloseTo(worst);
      expect(worst).toBeGreaterThanOrEqual(4.5);
    }
    const { opacity } = mendings[0]!.change.box!;
    const less = overrideLook(look, {
      box: { ...mendings[0]!.change.box, opacity: opacity! - 0.05 } as LookOverrides['box'] & object
    });
    expect(legibilityOf(areasOf(less), during, map)!.worst).toBeLessThan(4.5);
    expect(mendings[2]!.change).toEqual({ placement: 'top centre' });
  });

  test('leaves out what would not help', () => {
    const everywhere = findMendings({ look, during, map: plainLight(luminanceOf('#808080')), areasOf });
    expect(everywhere.map(({ kind }) => kind)).toEqual(['box', 'outline', 'color']);
    expect(contrastOf(luminanceOf('#000000'), luminanceOf('#808080'))).toBeGreaterThan(4.5);
  });
});

describe('lettering of the picture', () => {
  /** Strokes from x 0.3 to 0.7 and y 0.82 to 0.87, on ground as `ground` has it. */
  const lettered = (
    ground: (x: number, y: number, frame: number) => number,
    isInk = (frame: number) => frame >= 0
  ): LightMap =>
    mapOf((x, y, frame) => {
      const isStroke = x > 0.3 && x < 0.7 && y > 0.82 && y < 0.87 && Math.floor(x * 320) % 4 === 0;
      return grey(isStroke && isInk(frame) ? 240 : ground(x, y, frame));
    }, 8);
  const over = (map: LightMap, place: Partial<TextArea> = {}): boolean =>
    isOverLettering([area(BARE, place)], span(0, 2000), map);

  test('is told where text lies on it, not where it lies elsewhere', () => {
    const map = lettered(() => 40);
    expect(over(map)).toBe(true);
    expect(over(map, { y: 0.1 })).toBe(false);
    expect(isOverLettering([], during, map)).toBe(false);
    expect(over({ bytes: new Uint8Array() })).toBe(false);
  });

  test('is not made of edges, of restless ground, of what moves, or of a moment', () => {
    // An edge between light and dark crosses a row of cells.
    expect(over(mapOf((_, y) => grey(y < 0.85 ? 230 : 20), 8))).toBe(false);
    expect(over(lettered((x, y) => ((Math.floor(x * 97) * 31 + Math.floor(y * 89) * 17) % 5) * 50))).toBe(false);
    expect(
      over(mapOf((x, y, frame) => grey((Math.floor(x * 320) + frame * 7 + (y > 0.9 ? 3 : 0)) % 9 < 3 ? 240 : 20), 8))
    ).toBe(false);
    expect(
      over(
        lettered(
          () => 40,
          (frame) => frame < 2
        )
      )
    ).toBe(false);
  });
});
