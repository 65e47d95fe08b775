/** Sound of one rate as that of another, block by block: interpolation by a Hann-windowed sinc. Sample 0 stays at time 0. */

/** Zero crossings of the sinc on either side: the pass band ends at nine tenths of half the lower rate. */
const CROSSINGS = 32;

export class RateConverter {
  readonly #from: number;
  readonly #to: number;
  /** Of the samples that come, how far to either side one that is given is made of. */
  readonly #reach: number;
  /** By where between two samples it stands; whole rates have few such places. */
  readonly #taps = new Map<number, Float64Array>();
  #kept: Float32Array;
  /** Which sample the first one that is kept is. */
  #keptFrom: number;
  #given = 0;

  /** Rates in whole samples a second. */
  constructor(fromHz: number, toHz: number) {
    this.#from = fromHz;
    this.#to = toHz;
    this.#reach = Math.ceil(CROSSINGS * Math.max(1, fromHz / toHz));
    this.#kept = new Float32Array(this.#reach);
    this.#keptFrom = -this.#reach;
  }

  /** All that is known with what came: it lags behind by as much as it looks ahead, less than a millisecond for 44.1 kHz. */
  push(samples: Float32Array): Float32Array {
    const known = new Float32Array(this.#kept.length + samples.length);
    known.set(this.#kept);
    known.set(samples, this.#kept.length);
    const end = this.#keptFrom + known.length;
    const until = Math.max(this.#given, Math.ceil(((end - this.#reach) * this.#to) / this.#from));
    const out = new Float32Array(until - this.#given);
    for (let at = 0; at < out.length; at++) {
      const place = (this.#given + at) * this.#from;
      const first = Math.floor(place / this.#to) - this.#reach + 1 - this.#keptFrom;
      const taps = this.#tapsAt(place % this.#to);
      let sum = 0;
      for (let tap = 0; tap < taps.length; tap++) sum += known[first + tap]! * taps[tap]!;
      out[at] = sum;
    }
    this.#given = until;
    const from = Math.floor((until * this.#from) / this.#to) - this.#reach + 1;
    this.#kept = known.slice(from - this.#keptFrom);
    this.#keptFrom = from;
    return out;
  }

  /** `rest`: of `to` parts between two samples. They add up to one. */
  #tapsAt(rest: number): Float64Array {
    const made = this.#taps.get(rest);
    if (made !== undefined) return made;
    const cutOff = Math.min(1, this.#to / this.#from);
    const taps = Float64Array.from({ length: 2 * this.#reach }, (_, at) => {
      const off = at - this.#reach + 1 - rest / this.#to;
      const x = off * cutOff;
      const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
      return sinc * (0.5 + 0.5 * Math.cos((Math.PI * off) / this.#reach));
    });
    const sum = taps.reduce((total, tap) => total + tap, 0);
    const scaled = taps.map((tap) => tap / sum);
    this.#taps.set(rest, scaled);
    return scaled;
  }
}
