/** Between 16 and 48 kHz: windowed-sinc interpolation and decimation by three. Sample 0 stays at time 0. */

const FACTOR = 3;
/** Zero crossings of the sinc on either side: the pass band ends at 7.5 kHz. */
const CROSSINGS = 16;
const REACH = CROSSINGS * FACTOR;

/** A Hann-windowed sinc that ends at 8 kHz; its taps add up to one. */
const TAPS = ((): Float64Array => {
  const taps = Float64Array.from({ length: 2 * REACH + 1 }, (_, at) => {
    const x = (at - REACH) / FACTOR;
    const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
    return sinc * (0.5 + 0.5 * Math.cos((Math.PI * (at - REACH)) / (REACH + 1)));
  });
  const sum = taps.reduce((total, tap) => total + tap, 0);
  return taps.map((tap) => tap / sum);
})();

/** Three samples for each one. */
export function upsample(samples: Int16Array): Float32Array {
  return Float32Array.from({ length: samples.length * FACTOR }, (_, at) => {
    let sum = 0;
    const first = Math.max(0, Math.ceil((at - REACH) / FACTOR));
    const last = Math.min(samples.length - 1, Math.floor((at + REACH) / FACTOR));
    for (let from = first; from <= last; from++) sum += samples[from]! * TAPS[at - from * FACTOR + REACH]!;
    return sum * FACTOR;
  });
}

/** Every third sample of what lies below 8 kHz, from `offset` on; as many as asked for. */
export function downsample(samples: Float32Array, offset: number, length: number): Int16Array {
  return Int16Array.from({ length }, (_, at) => {
    const middle = offset + at * FACTOR;
    let sum = 0;
    const last = Math.min(samples.length - 1, middle + REACH);
    for (let from = Math.max(0, middle - REACH); from <= last; from++)
      sum += samples[from]! * TAPS[from - middle + REACH]!;
    return Math.max(-32_768, Math.min(32_767, Math.round(sum)));
  });
}
