/** In-place fast Fourier transform (Cooley and Tukey 1965), radix 2. */
export function transform(real: Float64Array, imaginary: Float64Array): void {
  const size = real.length;
  for (let at = 1, to = 0; at < size; at++) {
    let bit = size >> 1;
    for (; to & bit; bit >>= 1) to ^= bit;
    to ^= bit;
    if (at < to) {
      [real[at], real[to]] = [real[to]!, real[at]!];
      [imaginary[at], imaginary[to]] = [imaginary[to]!, imaginary[at]!];
    }
  }
  for (let length = 2; length <= size; length <<= 1) {
    const angle = (-2 * Math.PI) / length;
    for (let half = 0; half < length / 2; half++) {
      const [cosine, sine] = [Math.cos(angle * half), Math.sin(angle * half)];
      for (let at = half; at < size; at += length) {
        const other = at + length / 2;
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
