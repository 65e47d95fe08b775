/** Dynamic time warping of two long runs of frames, from coarse to fine. */

/** Numbers that describe a sound, frame by frame, flat: `width` of them a frame. */
export interface Frames {
  readonly count: number;
  readonly width: number;
  readonly values: Float32Array;
}

/** How many frames are one, from level to level; the coarsest is searched over a wide band. */
const FACTORS = [32, 8, 2, 1];
/** Of the longer side, at the coarsest level: how far the two may run apart. */
const WIDEST = 0.25;
/** Frames to each side of the coarser level's path. */
const RADIUS = 48;
/** What a step costs in which only one side goes on: the two go on together where nothing says otherwise. */
const ALONE = 0.1;

export interface Warp {
  /** For each frame of the one, the frame of the other that it lies on; never falls. */
  readonly path: Int32Array;
  /** Mean distance along the path, by the mean distance of frames that have nothing to do with each other: about 1 for sounds that do not belong together. */
  readonly cost: number;
}

/** Lays one run on another, both whole; each is normalised by its own mean and spread first. */
export function warp(one: Frames, other: Frames): Warp {
  const [a, b] = [normalised(one), normalised(other)];
  if (a.count === 0 || b.count === 0) return { path: new Int32Array(a.count), cost: 1 };
  let path: Int32Array | null = null;
  let cost = 1;
  let before = 1;
  for (const factor of FACTORS) {
    const [from, to] = [coarser(a, factor), coarser(b, factor)];
    const scale = before / factor;
    const known = path;
    const centre = (row: number): number => {
      if (known === null) return (row * to.count) / from.count;
      return known[Math.min(known.length - 1, Math.floor(row / scale))]! * scale;
    };
    const radius = known === null ? Math.max(RADIUS, Math.ceil(WIDEST * Math.max(from.count, to.count))) : RADIUS;
    ({ path, cost } = search(from, to, centre, radius));
    before = factor;
  }
  return { path: path!, cost: cost / strangeness(a, b) };
}

function normalised({ count, width, values }: Frames): Frames {
  const out = new Float32Array(values.length);
  for (let at = 0; at < width; at++) {
    let [sum, squares] = [0, 0];
    for (let frame = 0; frame < count; frame++) {
      const value = values[frame * width + at]!;
      sum += value;
      squares += value * value;
    }
    const mean = sum / Math.max(1, count);
    const spread = Math.sqrt(Math.max(1e-9, squares / Math.max(1, count) - mean * mean));
    for (let frame = 0; frame < count; frame++) out[frame * width + at] = (values[frame * width + at]! - mean) / spread;
  }
  return { count, width, values: out };
}

/** Means of so many frames each. */
function coarser({ count, width, values }: Frames, factor: number): Frames {
  if (factor === 1) return { count, width, values };
  const fewer = Math.ceil(count / factor);
  const out = new Float32Array(fewer * width);
  for (let frame = 0; frame < fewer; frame++) {
    const to = Math.min(count, (frame + 1) * factor);
    for (let at = 0; at < width; at++) {
      let sum = 0;
      for (let from = frame * factor; from < to; from++) sum += values[from * width + at]!;
      out[frame * width + at] = sum / (to - frame * factor);
    }
  }
  return { count: fewer, width, values: out };
}

function distance(a: Frames, row: number, b: Frames, column: number): number {
  let sum = 0;
  const { width } = a;
  for (let at = 0; at < width; at++) {
    const difference = a.values[row * width + at]! - b.values[column * width + at]!;
    sum += difference * difference;
  }
  return Math.sqrt(sum);
}

const [BOTH, DOWN, ACROSS] = [0, 1, 2];

/** The cheapest path within a band around a centre. */
function search(
  a: Frames,
  b: Frames,
  centre: (row: number) => number,
  radius: number
): { path: Int32Array; cost: number } {
  const [rows, columns] = [a.count, b.count];
  const lows = new Int32Array(rows);
  const highs = new Int32Array(rows);
  const starts = new Float64Array(rows + 1);
  for (let row = 0; row < rows; row++) {
    const middle = Math.round(centre(row));
    const next = row + 1 < rows ? Math.round(centre(row + 1)) : columns - 1;
    lows[row] = row === 0 ? 0 : Math.max(0, Math.min(columns - 1, middle - radius));
    highs[row] = row === rows - 1 ? columns - 1 : Math.max(lows[row]!, Math.min(columns - 1, next + radius));
    starts[row + 1] = starts[row]! + highs[row]! - lows[row]! + 1;
  }
  const steps = new Uint8Array(starts[rows]!);
  let costs = new Float64Array(0);
  let low = 0;
  for (let row = 0; row < rows; row++) {
    const here = lows[row]!;
    const next = new Float64Array(highs[row]! - here + 1).fill(Number.POSITIVE_INFINITY);
    for (let column = here; column <= highs[row]!; column++) {
      const own = distance(a, row, b, column);
      const both = row === 0 ? (column === 0 ? 0 : Infinity) : (costs[column - 1 - low] ?? Infinity);
      const down = (row === 0 ? Infinity : (costs[column - low] ?? Infinity)) + ALONE;
      const across = (next[column - 1 - here] ?? Infinity) + ALONE;
      const least = Math.min(both, down, across);
      next[column - here] = least + own;
      steps[starts[row]! + column - here] = least === both ? BOTH : least === down ? DOWN : ACROSS;
    }
    costs = next;
    low = here;
  }
  const path = new Int32Array(rows);
  let length = 0;
  for (let [row, column] = [rows - 1, columns - 1]; row >= 0;) {
    path[row] = column;
    length++;
    const step = steps[starts[row]! + column - lows[row]!]!;
    if (step !== ACROSS) row--;
    if (step !== DOWN) column--;
    if (column < 0) break;
  }
  return { path, cost: costs[columns - 1 - low]! / length };
}

/** Mean distance of frames far from each other's place. */
function strangeness(a: Frames, b: Frames): number {
  const tries = 2000;
  let sum = 0;
  for (let at = 0; at < tries; at++)
    sum += distance(a, (at * 7919) % a.count, b, (at * 104_729 + (b.count >> 1)) % b.count);
  return sum / tries;
}
