/** What clicks are made of: sound above 6 kHz, heard through a filter (a windowed sinc of 255 taps, Blackman). */
const TAPS = 255;
const HALF = (TAPS - 1) / 2;
const SPLIT_HZ = 6000;

function tapsAt(rateHz: number): Float64Array {
  const share = (2 * SPLIT_HZ) / rateHz;
  return Float64Array.from({ length: TAPS }, (_, at) => {
    const offset = at - HALF;
    const low = offset === 0 ? share : Math.sin(Math.PI * share * offset) / (Math.PI * offset);
    const turn = (2 * Math.PI * at) / (TAPS - 1);
    return ((offset === 0 ? 1 : 0) - low) * (0.42 - 0.5 * Math.cos(turn) + 0.08 * Math.cos(2 * turn));
  });
}

/** Mean power of that in the 5 ms around a sample, of sound that is kept in 16 bits. */
export function powerAbove6k(sound: Float32Array, middle: number, rateHz: number): number {
  const taps = tapsAt(rateHz);
  const span = Math.round(rateHz * 0.0025);
  let power = 0;
  for (let step = -span; step < span; step++) {
    let sum = 0;
    for (let at = 0; at < TAPS; at++) sum += taps[at]! * (sound[middle + step + HALF - at] ?? 0);
    power += sum * sum;
  }
  return power / (2 * span) + (1 / 32_768) ** 2 / 12;
}
