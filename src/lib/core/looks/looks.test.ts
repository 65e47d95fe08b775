import { expect, test } from 'vitest';
import { SHIPPED_FACES } from '../faces';
import { findNewer } from '../kept';
import { contrastRatio } from '../light';
import { trackOfLines } from '../testing/fonts';
import { changeLook, hasOutline, HOUSE_LOOK, lookSchema } from '../track';
import { formatLooksFile, parseLooksFile, SHIPPED_LOOKS, type KeptLook } from '.';

test('the shipped looks are whole, of faces that ship, differ from each other, and can be read', () => {
  expect(new Set(SHIPPED_LOOKS.map(({ name }) => name)).size).toBe(SHIPPED_LOOKS.length);
  expect(new Set(SHIPPED_LOOKS.map(({ look }) => JSON.stringify(look))).size).toBe(SHIPPED_LOOKS.length);
  for (const { name, look } of SHIPPED_LOOKS) {
    expect(lookSchema.parse(look), name).toEqual(look);
    const face = SHIPPED_FACES.find(({ id }) => id === look.face);
    expect(face?.weights, name).toContain(look.weight);
    const against = hasOutline(look) ? look.outline!.color : look.box.color;
    expect(contrastRatio(look.color, against), name).toBeGreaterThan(7);
  }
});

test('a file of looks gives them back, and what is none says why', () => {
  const looks = [{ name: 'Our own', look: changeLook(HOUSE_LOOK, { color: '#ffee00', box: { kind: 'none' } }) }];
  expect(parseLooksFile(formatLooksFile(looks))).toEqual({ ok: true, value: looks });
  const wrong = ['', 'no JSON', '[]', '{"looks":[]}', '{"vineTapLooks":9,"looks":[]}', '{"vineTapLooks":1,"looks":[]}'];
  const tooLarge = formatLooksFile(looks).replace('"sizePercent": 7', '"sizePercent": 700');
  const unknown = formatLooksFile(looks).replace('"italic"', '"sparkle": 1, "italic"');
  for (const text of [...wrong, tooLarge, unknown]) {
    const read = parseLooksFile(text);
    expect(read.ok ? 'taken' : read.problem.message).toMatch(/\.$/);
  }
});

test('a kept look that has changed offers itself to the track that took it, and to no other', () => {
  const kept: KeptLook = { name: 'Our own', look: HOUSE_LOOK, version: 4, shipped: false };
  const track = trackOfLines(['one']);
  expect(findNewer(track.lookFrom, [kept])).toBe(null);
  expect(findNewer({ name: 'Our own', version: 4 }, [kept])).toBe(null);
  expect(findNewer({ name: 'Our own', version: 3 }, [kept])).toBe(kept);
  expect(findNewer({ name: 'Gone', version: 3 }, [kept])).toBe(null);
});
