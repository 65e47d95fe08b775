import { expect, test } from 'vitest';
import { SPECTRUM_BANDS, SPECTRUM_STEP_MS, speechSpectrum } from '.';

const RATE_HZ = 16_000;
/** Two seconds: noise throughout, a tone in the second half. */
function made(toneHz: number, noise: number): Int16Array {
  let state = 1;
  return Int16Array.from({ length: 2 * RATE_HZ }, (_, at) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) | 0;
    const hiss = (state / 2 ** 31) * noise;
    const tone = at < RATE_HZ ? 0 : Math.sin((2 * Math.PI * toneHz * at) / RATE_HZ) * 0.3;
    return Math.round((hiss + tone) * 32_767);
  });
}
const strongest = (bytes: Uint8Array, column: number): number => {
  const own = [...bytes.slice(column * SPECTRUM_BANDS, (column + 1) * SPECTRUM_BANDS)];
  return own.indexOf(Math.max(...own));
};

test('a tone stands in its band, higher ones in higher bands, and steady noise falls away', () => {
  const bands = [200, 800, 2500, 6000].map((hz) => {
    const bytes = speechSpectrum(made(hz, 0.01));
    expect(bytes).toHaveLength((2000 / SPECTRUM_STEP_MS) * SPECTRUM_BANDS);
    const early = bytes.slice(20 * SPECTRUM_BANDS, 80 * SPECTRUM_BANDS);
    expect(early.reduce((sum, byte) => sum + byte, 0) / early.length).toBeLessThan(25);
    expect(Math.max(...bytes.slice(150 * SPECTRUM_BANDS, 151 * SPECTRUM_BANDS))).toBeGreaterThan(200);
    return strongest(bytes, 150);
  });
  expect(bands).toEqual([...bands].sort((a, b) => a - b));
  expect(new Set(bands).size).toBe(4);
});

test('silence, and nothing at all, is empty', () => {
  expect(speechSpectrum(new Int16Array(16_000)).every((byte) => byte === 0)).toBe(true);
  expect(speechSpectrum(new Int16Array(0))).toHaveLength(0);
});
