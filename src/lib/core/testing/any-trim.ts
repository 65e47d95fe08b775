/** Generated trims: what commands make of a recording, in any order. */
import fc from 'fast-check';
import { makeTrim, mapOf, resolveTrimCommands, type Trim, type TrimCommand } from '../trims';
import { wholeMs, type Ms } from '../time';

export const RECORDED_MS = 10_000;

/** Shares of a length, so that a command fits whatever trim there is by then. */
export interface TrimSeed {
  readonly type: TrimCommand['type'];
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly flag: boolean;
}

const share = fc.integer({ min: 0, max: 1000 }).map((part) => part / 1000);
export const anyTrimSeed: fc.Arbitrary<TrimSeed> = fc.record({
  type: fc.constantFrom<TrimCommand['type']>(
    ...([
      'takeOut',
      'takeOut',
      'putBack',
      'silence',
      'putInPause',
      'setPause',
      'removePauses',
      'move',
      'repeat'
    ] as const),
    ...(['restoreOrder', 'moveEdge', 'setGain', 'setFade', 'setTitle', 'setPieces'] as const)
  ),
  ...{ a: share, b: share, c: share, flag: fc.boolean() }
});

const uuid = (number: number): string => `00000000-0000-4000-8000-${String(number).padStart(12, '0')}`;

/** `null` where the trim has nothing that such a command could be given. `number`: mints its id. */
export function trimCommandOf(trim: Trim, { type, a, b, c, flag }: TrimSeed, number: number): TrimCommand | null {
  const newId = uuid(number);
  const { lengthMs } = mapOf(trim);
  const recorded = (part: number): Ms => wholeMs(part * RECORDED_MS);
  const trimmed = (part: number): Ms => wholeMs(part * lengthMs);
  const span = { fromMs: recorded(Math.min(a, b)), toMs: recorded(Math.max(a, b)) };
  const piece = trim.pieces[Math.floor(c * (trim.pieces.length - 1))];
  const pauses = trim.pieces.filter(({ kind }) => kind === 'pause');
  switch (type) {
    case 'takeOut':
      return { type, spans: [span], leaveGap: flag, newId };
    case 'putBack':
    case 'silence':
      return { type, spans: [flag && piece !== undefined ? { ...span, pieceId: piece.id } : span], newId };
    case 'setGain':
      return { type, spans: [span], gainDb: Math.round(c * 12) - 6, newId };
    case 'putInPause':
      return { type, atMs: trimmed(a), lengthMs: wholeMs(1 + b * 2000), newId };
    case 'setPause':
      return pauses[0] === undefined ? null : { type, pieceId: pauses[0].id, lengthMs: wholeMs(1 + a * 900) };
    case 'removePauses':
      return pauses.length === 0 ? null : { type, pieceIds: pauses.map(({ id }) => id) };
    case 'move':
    case 'repeat':
      return { type, fromMs: trimmed(Math.min(a, b)), toMs: trimmed(Math.max(a, b)), beforeMs: trimmed(c), newId };
    case 'restoreOrder':
      return { type, newId };
    case 'moveEdge':
      return piece === undefined
        ? null
        : { type, pieceId: piece.id, edge: flag ? 'start' : 'end', atMs: recorded(a), newId };
    case 'setFade':
      return { type, pieceId: flag && piece !== undefined ? piece.id : null, fadeMs: Math.round(a * 40) };
    case 'setTitle':
      return { type, title: `Trim ${number}` };
    case 'setPieces':
      return {
        ...{ type, newId },
        pieces: [
          { kind: flag ? 'keep' : 'silence', ...span },
          { kind: 'pause', lengthMs: wholeMs(1 + c * 700) },
          { kind: 'keep', fromMs: recorded(Math.min(b, c)), toMs: recorded(Math.max(b, c)) }
        ]
      };
  }
}

export const wholeTrim = (recordedMs = RECORDED_MS): Trim =>
  makeTrim({ id: 'trim', recordingId: 'recording', title: 'The long one', recordedMs, pieceId: 'whole' });

/** What a row of seeds makes of a whole recording; what cannot be done is passed over. */
export function trimFromSeeds(seeds: readonly TrimSeed[], from: Trim = wholeTrim()): Trim {
  return seeds.reduce((trim, seed, at) => {
    const command = trimCommandOf(trim, seed, at);
    const done = command === null ? null : resolveTrimCommands(trim, [command]);
    return done?.ok === true ? done.value : trim;
  }, from);
}

export const anyTrim: fc.Arbitrary<Trim> = fc
  .array(anyTrimSeed, { maxLength: 12 })
  .map((seeds) => trimFromSeeds(seeds));
