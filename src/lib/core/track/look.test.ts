import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  changeLook,
  changeOverrides,
  HOUSE_LOOK,
  lookChangeSchema,
  lookOfCue,
  lookSchema,
  makeCue,
  makeSpeaker,
  makeTrack,
  makeWord,
  overriddenValues,
  overrideLook,
  placementOf,
  type LookChange
} from '.';

const anyChange: fc.Arbitrary<LookChange> = fc
  .record(
    {
      face: fc.constantFrom('zilla', 'anton', null),
      weight: fc.constantFrom(400, 700, null),
      color: fc.constantFrom('#ff0000', '#00ff00', null),
      placement: fc.constantFrom('top left' as const, { xPercent: 20, yPercent: 80 }, null),
      outline: fc.option(fc.record({ color: fc.constantFrom('#112233', null), widthEm: fc.constantFrom(0, 0.1) })),
      box: fc.option(
        fc.record({ opacity: fc.constantFrom(0.3, null), kind: fc.constantFrom('none' as const, 'block' as const) })
      ),
      motion: fc.option(fc.record({ come: fc.constantFrom('fade' as const, 'rise' as const, null) }))
    },
    { requiredKeys: [] }
  )
  .map((change) => change as LookChange);

describe('a look', () => {
  test('of before it had all its values is as the house’s, and reads as it was', () => {
    const old = lookSchema.parse({ sizePercent: 9, placement: 'top centre' });
    expect(old).toEqual({ ...HOUSE_LOOK, sizePercent: 9, placement: 'top centre' });
  });

  test('is refused with a value out of its range, a colour that is none, or what no look has', () => {
    const wrong = [{ sizePercent: 0 }, { color: 'red' }, { color: '#12345' }, { sparkle: true }, { box: { tilt: 3 } }];
    for (const change of [...wrong, { weight: 1000 }, { placement: { xPercent: 120, yPercent: 3 } }])
      expect(lookChangeSchema.safeParse(change).success, JSON.stringify(change)).toBe(false);
    expect(lookChangeSchema.safeParse({ color: '#AbCdEf', box: { opacity: null }, shadow: null }).success).toBe(true);
  });

  test('takes the values of a change, keeps the others, and gets the house’s where one falls back', () => {
    fc.assert(
      fc.property(anyChange, anyChange, (first, second) => {
        const look = changeLook(changeLook(HOUSE_LOOK, first), second);
        expect(lookSchema.parse(look)).toEqual(look);
        for (const [key, value] of Object.entries(second)) {
          const now = look[key as keyof typeof look];
          if (value === null) expect(now).toEqual(HOUSE_LOOK[key as keyof typeof look]);
          else if (typeof value !== 'object') expect(now).toBe(value);
        }
        const others = Object.keys(HOUSE_LOOK).filter((key) => !(key in first) && !(key in second));
        for (const key of others) expect(look).toHaveProperty(key, HOUSE_LOOK[key as keyof typeof look]);
      })
    );
  });
});

describe('overrides', () => {
  test('hold the values last set, none that fell back, and are nothing when all have', () => {
    fc.assert(
      fc.property(fc.array(anyChange, { maxLength: 5 }), (changes) => {
        const overrides = changes.reduce<ReturnType<typeof changeOverrides>>(changeOverrides, null);
        const names = overriddenValues(overrides);
        expect(overrides === null).toBe(names.length === 0);
        const gone = Object.fromEntries(names.map((name) => [name.split('.')[0]!, null]));
        expect(changeOverrides(overrides, gone)).toBe(null);
        // What is overridden, and nothing else, differs from what lies below.
        const look = overrideLook({ ...HOUSE_LOOK, outline: { color: '#000000', widthEm: 0.2 } }, overrides);
        expect(lookSchema.parse(look)).toEqual(look);
      })
    );
  });

  test('of a group leave its other values', () => {
    const look = overrideLook(HOUSE_LOOK, { box: { opacity: 0.2 }, outline: { widthEm: 0.1 } });
    expect(look.box).toEqual({ ...HOUSE_LOOK.box, opacity: 0.2 });
    expect(look.outline).toEqual({ color: '#000000', widthEm: 0.1 });
  });
});

describe('whose look a cue has', () => {
  const word = (id: string, speakerId: string | null) =>
    makeWord({ id, text: id, startMs: 0, endMs: 10, timing: 'heard', speakerId });
  const track = makeTrack({
    id: 't',
    recordingId: 'r',
    language: 'en',
    title: '',
    words: [word('a', 's1'), word('b', 's1'), word('c', 's1'), word('d', 's2')],
    speakers: [
      { ...makeSpeaker('s1', 'Ines'), look: { color: '#ffcc00', placement: 'top left' } },
      makeSpeaker('s2', 'Tobin')
    ],
    cues: [
      makeCue({ id: 'one', startMs: 0, endMs: 10, wordIds: ['a'] }),
      makeCue({
        id: 'own',
        startMs: 20,
        endMs: 30,
        wordIds: ['b'],
        look: { color: '#ffffff' },
        placement: 'middle right'
      }),
      makeCue({ id: 'both', startMs: 40, endMs: 50, wordIds: ['c', 'd'] })
    ]
  });

  test('the track’s, over it the speaker’s where all its words agree, over that its own', () => {
    const [one, own, both] = track.cues.map((cue) => lookOfCue(track, cue));
    expect([one!.color, own!.color, both!.color]).toEqual(['#ffcc00', '#ffffff', HOUSE_LOOK.color]);
    expect(track.cues.map((cue) => placementOf(track, cue))).toEqual(['top left', 'middle right', 'bottom centre']);
  });
});
