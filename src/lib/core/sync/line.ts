/** A straight line through pairs of times, some of them wrong. */

export interface Pair {
  readonly fromMs: number;
  readonly toMs: number;
  readonly weight: number;
}

/** `to = from × speed + shift`. */
export interface Line {
  readonly speed: number;
  readonly shiftMs: number;
  /** The speed it was tried at: kept where the pairs do not tell another. */
  readonly namedSpeed: number;
}

/** Rounds of weighing each pair by how far it lies off (Huber, "Robust estimation of a location parameter", 1964). */
const ROUNDS = 12;
/** A speed found is believed only where it moves an end of the pairs by more than this, and more than it may err by. */
const TELLING_MS = 45;

/** The robust line through the pairs, one of at least; with the named speed where they do not speak against it. */
export function fitLine(
  pairs: readonly Pair[],
  namedSpeed: number,
  { leastPairs }: { readonly leastPairs: number }
): Line {
  const kept = robust(pairs, namedSpeed);
  const named: Line = { speed: namedSpeed, shiftMs: kept.shiftMs, namedSpeed };
  const first = pairs[0]!.fromMs;
  const last = pairs.at(-1)!.fromMs;
  if (pairs.length < leastPairs || last - first < 30_000) return named;
  const free = robust(pairs, null);
  const halfMs = (last - first) / 2;
  const movedMs = Math.abs(free.speed - namedSpeed) * halfMs;
  if (Math.abs(free.speed / namedSpeed - 1) > 0.012 || movedMs < Math.max(TELLING_MS, 3 * free.errorOfSpeed * halfMs))
    return named;
  return { speed: free.speed, shiftMs: free.shiftMs, namedSpeed };
}

/** Weighted least squares again and again; `speed` given, only the shift is sought. */
function robust(
  pairs: readonly Pair[],
  speed: number | null
): { speed: number; shiftMs: number; errorOfSpeed: number } {
  let line = { speed: speed ?? 1, shiftMs: 0 };
  const bySpeed = speed ?? 1;
  line.shiftMs = median(pairs.map(({ fromMs, toMs }) => toMs - fromMs * bySpeed));
  let errorOfSpeed = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const offMs = pairs.map(({ fromMs, toMs }) => toMs - (fromMs * line.speed + line.shiftMs));
    const scaleMs = Math.max(8, 1.48 * median(offMs.map(Math.abs)));
    let [sum, sumFrom, sumTo] = [0, 0, 0];
    const weights = offMs.map((off, index) => {
      const far = Math.abs(off) / (1.5 * scaleMs);
      return pairs[index]!.weight * (far <= 1 ? 1 : 1 / (far * far));
    });
    pairs.forEach(({ fromMs, toMs }, index) => {
      sum += weights[index]!;
      sumFrom += weights[index]! * fromMs;
      sumTo += weights[index]! * toMs;
    });
    const [meanFrom, meanTo] = [sumFrom / sum, sumTo / sum];
    let [across, squares] = [0, 0];
    pairs.forEach(({ fromMs, toMs }, index) => {
      across += weights[index]! * (fromMs - meanFrom) * (toMs - meanTo);
      squares += weights[index]! * (fromMs - meanFrom) ** 2;
    });
    const slope = speed ?? (squares > 0 ? across / squares : 1);
    line = { speed: slope, shiftMs: meanTo - slope * meanFrom };
    errorOfSpeed = squares > 0 ? scaleMs / Math.sqrt(squares) : Number.POSITIVE_INFINITY;
  }
  return { ...line, errorOfSpeed };
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
}

/** The shift, of two points and more also the speed, that bring each from where it is to where it belongs; `null` for none. */
export function lineThrough(points: readonly Omit<Pair, 'weight'>[]): { speed: number; shiftMs: number } | null {
  const [first, ...more] = points.toSorted((one, other) => one.fromMs - other.fromMs);
  if (first === undefined) return null;
  const last = more.at(-1);
  if (last === undefined || last.fromMs === first.fromMs)
    return { speed: 1, shiftMs: Math.round(first.toMs - first.fromMs) };
  const mean = (value: (point: Omit<Pair, 'weight'>) => number): number =>
    points.reduce((sum, point) => sum + value(point), 0) / points.length;
  const [meanFrom, meanTo] = [mean(({ fromMs }) => fromMs), mean(({ toMs }) => toMs)];
  const speed =
    mean(({ fromMs, toMs }) => (fromMs - meanFrom) * (toMs - meanTo)) / mean(({ fromMs }) => (fromMs - meanFrom) ** 2);
  return speed < 0.1 || speed > 10 ? null : { speed, shiftMs: Math.round(meanTo - speed * meanFrom) };
}
