/** In-place fast Fourier transform (Cooley and Tukey 1965), radix 2. */
export function transform(real: Float64Array, imaginary: Float64Array): void {
  const size = real.length;
  for (let at = 1, to = 0; at < size; at++) {
    let bit = size >> 1;
    for (; to & bit; bit >>= 1) to ^= bit;
    to ^= bit;
    if (at < to) {
      swap(real, at, to);
      swap(imaginary, at, to);
    }
  }
  const { cosines, sines } = turnsOf(size);
  for (let length = 2; length <= size; length <<= 1) {
    const half = length >> 1;
    const stride = size / length;
    for (let from = 0; from < size; from += length) {
      for (let step = 0; step < half; step++) {
        const at = from + step;
        const other = at + half;
        const cosine = cosines[step * stride]!;
        const sine = sines[step * stride]!;
        const a = real[other]! * cosine - imaginary[other]! * sine;
        const b = real[other]! * sine + imaginary[other]! * cosine;
        real[other] = real[at]! - a;
        imaginary[other] = imaginary[at]! - b;
        real[at] = real[at]! + a;
        imaginary[at] = imaginary[at]! + b;
      }
    }
  }
}

function swap(values: Float64Array, a: number, b: number): void {
  const kept = values[a]!;
  values[a] = values[b]!;
  values[b] = kept;
}

interface Turns {
  readonly cosines: Float64Array;
  readonly sines: Float64Array;
}
/** One table for each size; only a few sizes are used. */
const turns = new Map<number, Turns>();

function turnsOf(size: number): Turns {
  const known = turns.get(size);
  if (known !== undefined) return known;
  const angle = (at: number): number => (-2 * Math.PI * at) / size;
  const made = {
    cosines: Float64Array.from({ length: size >> 1 }, (_, at) => Math.cos(angle(at))),
    sines: Float64Array.from({ length: size >> 1 }, (_, at) => Math.sin(angle(at)))
  };
  turns.set(size, made);
  return made;
}
