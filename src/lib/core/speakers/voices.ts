/**
 * Who speaks when: stretches of speech are told apart by the Gaussians of their cepstra and pitch, and joined while the
 * Bayesian information criterion holds them for one voice (Chen and Gopalakrishnan 1998).
 */
import { CEPSTRA, CepstralAnalyser, FRAME_STEP, logPitch } from '../audio';
import { type ReckonedSpan, type Span, toSpan } from '../time';

const SIZE = CEPSTRA + 1;
/** Pitch counts for as much as several cepstra. */
const PITCH_WEIGHT = 3;

/** Sums over the voiced frames of a stretch: all that its Gaussian needs. */
export interface VoiceSums {
  readonly frames: number;
  readonly sum: Float64Array;
  /** Sums of products, row by row. */
  readonly products: Float64Array;
}

/** What a voice sounds like in a stretch of 16-bit mono sound at 16 kHz. */
export function voiceOf(samples: Int16Array): VoiceSums {
  const analyser = new CepstralAnalyser();
  const frame = new Float64Array(SIZE);
  const sum = new Float64Array(SIZE);
  const products = new Float64Array(SIZE * SIZE);
  let frames = 0;
  for (let from = 0; from + FRAME_STEP * 4 <= samples.length; from += FRAME_STEP) {
    const pitch = logPitch(samples, from);
    if (pitch === null) continue;
    analyser.cepstra(samples, from, frame);
    frame[CEPSTRA] = pitch * PITCH_WEIGHT;
    for (let row = 0; row < SIZE; row++) {
      sum[row] = sum[row]! + frame[row]!;
      for (let column = 0; column < SIZE; column++)
        products[row * SIZE + column] = products[row * SIZE + column]! + frame[row]! * frame[column]!;
    }
    frames++;
  }
  return { frames, sum, products };
}

function join(one: VoiceSums, other: VoiceSums): VoiceSums {
  return {
    frames: one.frames + other.frames,
    sum: one.sum.map((value, at) => value + other.sum[at]!),
    products: one.products.map((value, at) => value + other.products[at]!)
  };
}

/** Keeps the covariance of a few frames from being singular. */
const LEAST_VARIANCE = 0.02;

function covarianceOf({ frames, sum, products }: VoiceSums): Float64Array {
  return products.map((value, at) => {
    const [row, column] = [Math.floor(at / SIZE), at % SIZE];
    const covariance = value / frames - (sum[row]! * sum[column]!) / frames ** 2;
    return row === column ? covariance + LEAST_VARIANCE : covariance;
  });
}

/** Lower triangle of the Cholesky factor of a positive definite matrix. */
function cholesky(matrix: Float64Array): Float64Array {
  const lower = new Float64Array(SIZE * SIZE);
  for (let row = 0; row < SIZE; row++)
    for (let column = 0; column <= row; column++) {
      let value = matrix[row * SIZE + column]!;
      for (let at = 0; at < column; at++) value -= lower[row * SIZE + at]! * lower[column * SIZE + at]!;
      lower[row * SIZE + column] =
        row === column ? Math.sqrt(Math.max(value, 1e-9)) : value / lower[column * SIZE + column]!;
    }
  return lower;
}

function logDeterminant(lower: Float64Array): number {
  let sum = 0;
  for (let at = 0; at < SIZE; at++) sum += 2 * Math.log(lower[at * SIZE + at]!);
  return sum;
}

interface Cluster {
  sums: VoiceSums;
  logDeterminant: number;
  members: number[];
}

const clusterOf = (sums: VoiceSums, members: number[]): Cluster => ({
  sums,
  members,
  logDeterminant: logDeterminant(cholesky(covarianceOf(sums)))
});

/** How much worse one Gaussian tells two clusters than two do: in nats, 0 and above. */
function loss(one: Cluster, other: Cluster, joined: Cluster): number {
  return (
    (joined.sums.frames * joined.logDeterminant -
      one.sums.frames * one.logDeterminant -
      other.sums.frames * other.logDeterminant) /
    2
  );
}

/** Weight of the criterion’s penalty; it held on talks of one, two and three voices, see docs/bench.md. */
const PENALTY = 4;
const PARAMETERS = SIZE + (SIZE * (SIZE + 1)) / 2;
/** A stretch with fewer voiced frames is given to the voice that it is most like, and founds none. */
const LEAST_FRAMES = 60;
/** Beyond this many stretches, neighbours are joined before all are compared with all. */
const MOST_COMPARED = 500;

/**
 * The voice of each stretch, numbered from 0 in the order in which they speak. `count`: how many there are, or `auto` to
 * find out. Fewer come back where there are fewer stretches.
 */
export function tellVoices(stretches: readonly VoiceSums[], count: number | 'auto'): readonly number[] {
  const enough = stretches.map((sums, at) => ({ sums, at })).filter(({ sums }) => sums.frames >= LEAST_FRAMES);
  if (enough.length === 0) return stretches.map(() => 0);
  const clusters = joinNeighbours(enough.map(({ sums, at }) => clusterOf(sums, [at])));
  while (clusters.length > 1) {
    let best = { one: 0, other: 1, cost: Number.POSITIVE_INFINITY };
    for (let one = 0; one < clusters.length; one++)
      for (let other = one + 1; other < clusters.length; other++) {
        const cost = costOf(clusters[one]!, clusters[other]!);
        if (cost < best.cost) best = { one, other, cost };
      }
    const { one, other, cost } = best;
    const joined = joinClusters(clusters[one]!, clusters[other]!);
    const penalty = (PENALTY * PARAMETERS * Math.log(joined.sums.frames)) / 2;
    if (count === 'auto' ? cost > penalty : clusters.length <= count) break;
    clusters.splice(other, 1);
    clusters[one] = joined;
  }
  return numberInOrder(reassign(stretches, clusters));
}

const joinClusters = (one: Cluster, other: Cluster): Cluster =>
  clusterOf(join(one.sums, other.sums), [...one.members, ...other.members]);

const costs = new WeakMap<Cluster, WeakMap<Cluster, number>>();
/** Kept from round to round, as each joins only two; the joined clusters themselves would fill the memory. */
function costOf(one: Cluster, other: Cluster): number {
  let row = costs.get(one);
  if (row === undefined) costs.set(one, (row = new WeakMap()));
  let cost = row.get(other);
  if (cost === undefined) row.set(other, (cost = loss(one, other, joinClusters(one, other))));
  return cost;
}

function joinNeighbours(clusters: readonly Cluster[]): Cluster[] {
  const all = [...clusters];
  while (all.length > MOST_COMPARED) {
    let best = { at: 0, cost: Number.POSITIVE_INFINITY };
    for (let at = 0; at + 1 < all.length; at++) {
      const cost = costOf(all[at]!, all[at + 1]!);
      if (cost < best.cost) best = { at, cost };
    }
    all.splice(best.at, 2, joinClusters(all[best.at]!, all[best.at + 1]!));
  }
  return all;
}

/** Gives every stretch to the voice that it is likeliest to be of, twice over with the voices learnt anew. */
function reassign(stretches: readonly VoiceSums[], clusters: readonly Cluster[]): number[] {
  let voices = clusters.map((cluster) => cluster.sums);
  let labels = stretches.map(() => 0);
  for (let round = 0; round < 3; round++) {
    const models = voices.map((sums) => ({
      mean: sums.sum.map((value) => value / sums.frames),
      lower: cholesky(covarianceOf(sums))
    }));
    labels = stretches.map((sums) => {
      const scores = models.map((model) => misfit(sums, model));
      return scores.indexOf(Math.min(...scores));
    });
    const learnt = voices.map((_, voice) =>
      stretches
        .filter((__, at) => labels[at] === voice)
        .reduce<VoiceSums | null>((sum, one) => (sum ? join(sum, one) : one), null)
    );
    voices = learnt.map((sums, voice) => (sums !== null && sums.frames >= LEAST_FRAMES ? sums : voices[voice]!));
  }
  return labels;
}

/** Twice the negative log-likelihood a frame of a stretch under a Gaussian, but for a constant. */
function misfit(sums: VoiceSums, { mean, lower }: { mean: Float64Array; lower: Float64Array }): number {
  if (sums.frames === 0) return 0;
  const own = covarianceOf(sums);
  let trace = 0;
  // Of the inverse times the scatter about the model's mean, a column at a time.
  for (let column = 0; column < SIZE; column++) {
    const scatter = Float64Array.from({ length: SIZE }, (_, row) => {
      const [a, b] = [sums.sum[row]! / sums.frames - mean[row]!, sums.sum[column]! / sums.frames - mean[column]!];
      return own[row * SIZE + column]! + a * b;
    });
    trace += solve(lower, scatter)[column]!;
  }
  return trace + logDeterminant(lower);
}

/** x of (L Lᵀ) x = b. */
function solve(lower: Float64Array, b: Float64Array): Float64Array {
  const x = Float64Array.from(b);
  for (let row = 0; row < SIZE; row++) {
    for (let at = 0; at < row; at++) x[row] = x[row]! - lower[row * SIZE + at]! * x[at]!;
    x[row] = x[row]! / lower[row * SIZE + row]!;
  }
  for (let row = SIZE - 1; row >= 0; row--) {
    for (let at = row + 1; at < SIZE; at++) x[row] = x[row]! - lower[at * SIZE + row]! * x[at]!;
    x[row] = x[row]! / lower[row * SIZE + row]!;
  }
  return x;
}

function numberInOrder(labels: readonly number[]): number[] {
  const order = [...new Set(labels)];
  return labels.map((label) => order.indexOf(label));
}

/** Long speech is looked at in pieces: two voices may follow each other without a pause. */
const PIECE_MS = 2500;

/** The stretches of speech that are told apart, in order. */
export function voiceStretches(regions: readonly ReckonedSpan[]): Span[] {
  return regions.flatMap(({ startMs, endMs }) => {
    const count = Math.max(1, Math.round((endMs - startMs) / PIECE_MS));
    const step = (endMs - startMs) / count;
    return Array.from({ length: count }, (_, at) =>
      toSpan({ startMs: startMs + at * step, endMs: startMs + (at + 1) * step })
    );
  });
}
