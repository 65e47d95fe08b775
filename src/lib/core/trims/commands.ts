/** What is asked of a trim. Each is resolved once, on the trim as it is; what came of it is kept as changes. */
import { z } from 'zod';
import { idSchema } from '../id';
import { plural } from '../plural';
import { fail, ok, type Result } from '../result';
import { clamp, formatClock, msSchema, wholeMs } from '../time';
import { changeWithin, indexAt, joinPieces, partAt, partIds, type PartIds, type PieceSpan } from './pieces';
import {
  GAIN_DB,
  makeStretch,
  MOST_FADE_MS,
  MOST_PAUSE_MS,
  MOST_PIECES,
  playedMs,
  uncoveredBy,
  type Piece,
  type Stretch,
  type Trim
} from './trim';

export type TrimProblemCode = 'unknown_piece' | 'bad_times' | 'beyond_recording' | 'into_itself' | 'too_many';

/** Why a command cannot be done: to what, and what to do. */
export interface TrimProblem {
  readonly code: TrimProblemCode;
  readonly message: string;
}
const problem = (code: TrimProblemCode, message: string): Result<never, TrimProblem> => fail({ code, message });

const newId = z.uuid().optional();
/** Recorded time, wherever it plays; with `pieceId` only in that piece. */
const spanSchema = z.object({ fromMs: msSchema, toMs: msSchema, pieceId: idSchema.optional() }).readonly();
const spansSchema = z.array(spanSchema).min(1).max(MOST_PIECES).readonly();
const gainDb = z.number().min(GAIN_DB.least).max(GAIN_DB.most);
const fadeMs = z.int().min(0).max(MOST_FADE_MS).nullable();
const pauseMs = msSchema.min(1).max(MOST_PAUSE_MS);

/** A piece as the API tells it. */
const plainPieceSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.enum(['keep', 'silence']),
    fromMs: msSchema,
    toMs: msSchema,
    gainDb: gainDb.optional(),
    fadeMs: fadeMs.optional()
  }),
  z.object({ kind: z.literal('pause'), lengthMs: pauseMs, fadeMs: fadeMs.optional() })
]);
export type PlainPiece = Readonly<z.infer<typeof plainPieceSchema>>;

const schemas = {
  takeOut: z.object({
    type: z.literal('takeOut'),
    spans: spansSchema,
    /** Its time stays, filled with the sound of the room. */
    leaveGap: z.boolean().optional(),
    newId
  }),
  putBack: z.object({ type: z.literal('putBack'), spans: spansSchema, newId }),
  silence: z.object({ type: z.literal('silence'), spans: spansSchema, newId }),
  putInPause: z.object({ type: z.literal('putInPause'), atMs: msSchema, lengthMs: pauseMs, newId }),
  setPause: z.object({ type: z.literal('setPause'), pieceId: idSchema, lengthMs: pauseMs }),
  removePauses: z.object({
    type: z.literal('removePauses'),
    pieceIds: z.array(idSchema).min(1).max(MOST_PIECES).readonly()
  }),
  /** In trimmed time, and so are those of `repeat`. */
  move: z.object({ type: z.literal('move'), fromMs: msSchema, toMs: msSchema, beforeMs: msSchema, newId }),
  repeat: z.object({ type: z.literal('repeat'), fromMs: msSchema, toMs: msSchema, beforeMs: msSchema, newId }),
  restoreOrder: z.object({ type: z.literal('restoreOrder'), newId }),
  moveEdge: z.object({
    type: z.literal('moveEdge'),
    pieceId: idSchema,
    edge: z.enum(['start', 'end']),
    /** Recorded time. */
    atMs: msSchema,
    newId
  }),
  setGain: z.object({ type: z.literal('setGain'), spans: spansSchema, gainDb, newId }),
  /** Of the crossfade at the beginning of a piece, or of all that have none of their own. */
  setFade: z.object({ type: z.literal('setFade'), pieceId: idSchema.nullable(), fadeMs }),
  setTitle: z.object({ type: z.literal('setTitle'), title: z.string().trim().min(1).max(200) }),
  setPieces: z.object({
    type: z.literal('setPieces'),
    pieces: z.array(plainPieceSchema.readonly()).max(MOST_PIECES).readonly(),
    newId
  })
} as const;

export const trimCommandSchema = z
  .discriminatedUnion('type', [
    schemas.takeOut,
    schemas.putBack,
    schemas.silence,
    schemas.putInPause,
    schemas.setPause,
    schemas.removePauses,
    schemas.move,
    schemas.repeat,
    schemas.restoreOrder,
    schemas.moveEdge,
    schemas.setGain,
    schemas.setFade,
    schemas.setTitle,
    schemas.setPieces
  ])
  .readonly();
export type TrimCommand = z.infer<typeof trimCommandSchema>;
type CommandOf<T extends TrimCommand['type']> = Extract<TrimCommand, { readonly type: T }>;

const LABELS: Readonly<Record<TrimCommand['type'], string>> = {
  takeOut: 'take out',
  putBack: 'put back',
  silence: 'silence',
  putInPause: 'put in a pause',
  setPause: 'change a pause',
  removePauses: 'remove a pause',
  move: 'move a passage',
  repeat: 'repeat a passage',
  restoreOrder: 'go back to the recorded order',
  moveEdge: 'move an edge',
  setGain: 'change the level',
  setFade: 'change a crossfade',
  setTitle: 'rename the trim',
  setPieces: 'set all pieces'
};

export function labelTrimCommands(commands: readonly TrimCommand[]): string {
  const [first] = commands;
  if (first === undefined) return 'nothing';
  const count = commands.reduce((sum, one) => sum + ('spans' in one ? one.spans.length : 1), 0);
  const label = LABELS[first.type];
  return count > 1 ? `${label} (${plural(count, 'place')})` : label;
}

/** The command with the id that its caller left out. */
export const completeTrimCommand = (command: TrimCommand, mint: () => string): TrimCommand =>
  'newId' in schemas[command.type].shape ? ({ newId: mint(), ...command } as TrimCommand) : command;

export const newIdsOfTrim = (command: TrimCommand): readonly string[] =>
  'newId' in command && command.newId !== undefined ? [command.newId] : [];

/** The trim with all of it done in order, or why one cannot be done. */
export function resolveTrimCommands(trim: Trim, commands: readonly TrimCommand[]): Result<Trim, TrimProblem> {
  let now = trim;
  for (const command of commands) {
    const done = resolve(now, command);
    if (!done.ok) return done;
    if (done.value.pieces.length > MOST_PIECES)
      return problem(
        'too_many',
        `A trim has ${MOST_PIECES} pieces at most; this would make more. Take out fewer at once.`
      );
    now = done.value;
  }
  return ok(now);
}

const unknownPiece = (id: string) => problem('unknown_piece', `There is no piece ${id} in this trim.`);
const idsOf = ({ newId }: { readonly newId?: string | undefined }): PartIds => partIds(newId ?? 'part');

function resolve(trim: Trim, command: TrimCommand): Result<Trim, TrimProblem> {
  switch (command.type) {
    case 'takeOut': {
      const out = command.leaveGap === true ? 'gap' : 'closed';
      return within(trim, command, (stretch) => ({ ...stretch, out }));
    }
    case 'putBack':
      // What is taken out comes back as it was, silent where it was silent.
      return within(trim, command, (stretch) =>
        stretch.out === 'no' ? { ...stretch, silent: false } : { ...stretch, out: 'no' }
      );
    case 'silence':
      return within(trim, command, (stretch) => (stretch.out === 'no' ? { ...stretch, silent: true } : stretch));
    case 'setGain':
      return within(trim, command, (stretch) => ({ ...stretch, gainDb: command.gainDb }));
    case 'putInPause':
      return putInPause(trim, command);
    case 'setPause':
      return changePiece(trim, command.pieceId, (piece) =>
        piece.kind === 'pause' ? { ...piece, lengthMs: command.lengthMs } : null
      );
    case 'removePauses': {
      const ids = new Set(command.pieceIds);
      const missing = command.pieceIds.find(
        (id) => !trim.pieces.some((piece) => piece.id === id && piece.kind === 'pause')
      );
      if (missing !== undefined) return unknownPiece(missing);
      return withPieces(
        trim,
        trim.pieces.filter(({ id }) => !ids.has(id))
      );
    }
    case 'move':
    case 'repeat':
      return place(trim, command);
    case 'restoreOrder':
      return withPieces(trim, inRecordedOrder(trim.pieces, idsOf(command)));
    case 'moveEdge':
      return moveEdge(trim, command);
    case 'setFade':
      if (command.pieceId === null)
        return command.fadeMs === null
          ? problem('bad_times', 'Say how long crossfades are to be, in ms.')
          : ok({ ...trim, fadeMs: command.fadeMs });
      return changePiece(trim, command.pieceId, (piece) => ({ ...piece, fadeMs: command.fadeMs }));
    case 'setTitle':
      return ok({ ...trim, title: command.title });
    case 'setPieces':
      return setPieces(trim, command);
  }
}

const withPieces = (trim: Trim, pieces: readonly Piece[]): Result<Trim, TrimProblem> =>
  ok({ ...trim, pieces: joinPieces(pieces) });

function findBadSpan({ recordedMs }: Trim, spans: readonly PieceSpan[]): Result<never, TrimProblem> | null {
  const backward = spans.find(({ fromMs, toMs }) => toMs <= fromMs);
  if (backward !== undefined)
    return problem(
      'bad_times',
      `The stretch from ${backward.fromMs} ms to ${backward.toMs} ms does not end after its start.`
    );
  const beyond = spans.find(({ toMs }) => toMs > recordedMs);
  return beyond === undefined
    ? null
    : problem(
        'beyond_recording',
        `The stretch from ${beyond.fromMs} ms to ${beyond.toMs} ms goes beyond the recording, which ends at ${recordedMs} ms.`
      );
}

function within(
  trim: Trim,
  command: { readonly spans: readonly PieceSpan[]; readonly newId?: string | undefined },
  change: (stretch: Stretch) => Stretch
): Result<Trim, TrimProblem> {
  const bad = findBadSpan(trim, command.spans);
  if (bad !== null) return bad;
  const named = command.spans.find(
    ({ pieceId }) => pieceId !== undefined && !trim.pieces.some(({ id }) => id === pieceId)
  );
  if (named !== undefined) return unknownPiece(named.pieceId!);
  return withPieces(trim, changeWithin(trim.pieces, command.spans, idsOf(command), change));
}

function changePiece(trim: Trim, id: string, change: (piece: Piece) => Piece | null): Result<Trim, TrimProblem> {
  const at = trim.pieces.findIndex((piece) => piece.id === id);
  const changed = at < 0 ? null : change(trim.pieces[at]!);
  return changed === null ? unknownPiece(id) : withPieces(trim, trim.pieces.with(at, changed));
}

const lengthOf = (pieces: readonly Piece[]): number => pieces.reduce((sum, piece) => sum + playedMs(piece), 0);

const beyondTrim = (ms: number, lengthMs: number) =>
  problem('bad_times', `The trim ends at ${lengthMs} ms (${formatClock(lengthMs, 3)}); there is no ${ms} ms in it.`);

function putInPause(trim: Trim, command: CommandOf<'putInPause'>): Result<Trim, TrimProblem> {
  const lengthMs = lengthOf(trim.pieces);
  if (command.atMs > lengthMs) return beyondTrim(command.atMs, lengthMs);
  const ids = idsOf(command);
  const parts = partAt(trim.pieces, command.atMs, ids);
  const pause: Piece = { id: ids(), kind: 'pause', lengthMs: command.lengthMs, fadeMs: null };
  return withPieces(trim, parts.toSpliced(indexAt(parts, command.atMs), 0, pause));
}

function place(trim: Trim, command: CommandOf<'move'> | CommandOf<'repeat'>): Result<Trim, TrimProblem> {
  const { fromMs, toMs, beforeMs, type } = command;
  const lengthMs = lengthOf(trim.pieces);
  if (toMs <= fromMs)
    return problem('bad_times', `The passage from ${fromMs} ms to ${toMs} ms does not end after its start.`);
  if (Math.max(toMs, beforeMs) > lengthMs) return beyondTrim(Math.max(toMs, beforeMs), lengthMs);
  if (type === 'move' && beforeMs >= fromMs && beforeMs <= toMs)
    return problem('into_itself', 'A passage cannot be moved into itself: choose a place before or behind it.');
  const ids = idsOf(command);
  const parts = [fromMs, toMs, beforeMs].reduce((pieces, ms) => partAt(pieces, ms, ids), [...trim.pieces]);
  const first = indexAt(parts, fromMs);
  let last = indexAt(parts, toMs) - 1;
  // What is taken out behind the passage stays there.
  while (last > first && playedMs(parts[last]!) === 0) last--;
  const passage = parts.slice(first, last + 1);
  const before = indexAt(parts, beforeMs);
  if (type === 'repeat') {
    const copies = passage.filter((piece) => playedMs(piece) > 0).map((piece) => ({ ...piece, id: ids() }));
    return withPieces(trim, parts.toSpliced(before, 0, ...copies));
  }
  const rest = parts.toSpliced(first, passage.length);
  return withPieces(trim, rest.toSpliced(before > first ? before - passage.length : before, 0, ...passage));
}

/** As it was recorded, each instant once, heard rather than not; a pause stays behind what it followed. */
function inRecordedOrder(pieces: readonly Piece[], ids: PartIds): Piece[] {
  const stretches = pieces.filter((piece) => piece.kind === 'stretch');
  const pausesAt = new Map<number, Piece[]>();
  let behindMs = 0;
  for (const piece of pieces) {
    if (piece.kind === 'pause') pausesAt.set(behindMs, [...(pausesAt.get(behindMs) ?? []), piece]);
    else behindMs = piece.toMs;
  }
  const byStart = stretches.toSorted((a, b) => a.fromMs - b.fromMs);
  const bounds = [
    ...new Set([...stretches.flatMap(({ fromMs, toMs }): number[] => [fromMs, toMs]), ...pausesAt.keys()])
  ].sort((a, b) => a - b);
  const ordered: Piece[] = [...(pausesAt.get(0) ?? [])];
  const used = new Set<string>();
  let open: Stretch[] = [];
  let next = 0;
  let lastFrom: Stretch | null = null;
  bounds.slice(0, -1).forEach((fromMs, at) => {
    const toMs = bounds[at + 1]!;
    for (; next < byStart.length && byStart[next]!.fromMs <= fromMs; next++) open.push(byStart[next]!);
    open = open.filter((stretch) => stretch.toMs > fromMs);
    const chosen = open.find(({ out }) => out === 'no') ?? open[0];
    if (chosen === undefined) return;
    const last = ordered.at(-1);
    if (lastFrom === chosen && last?.kind === 'stretch' && last.toMs === fromMs)
      ordered[ordered.length - 1] = { ...last, toMs: wholeMs(toMs) };
    else {
      const id = used.has(chosen.id) ? ids() : chosen.id;
      used.add(id);
      ordered.push({ ...chosen, id, fromMs: wholeMs(fromMs), toMs: wholeMs(toMs) });
    }
    lastFrom = chosen;
    ordered.push(...(pausesAt.get(toMs) ?? []));
  });
  return ordered;
}

/** What an edge passes over is taken out or put back; beyond what was taken out beside it, it plays twice. */
function moveEdge(trim: Trim, command: CommandOf<'moveEdge'>): Result<Trim, TrimProblem> {
  const { pieceId, edge, atMs } = command;
  const at = trim.pieces.findIndex(({ id }) => id === pieceId);
  const piece = trim.pieces[at];
  if (piece?.kind !== 'stretch') return unknownPiece(pieceId);
  if (atMs > trim.recordedMs)
    return problem(
      'beyond_recording',
      `The recording ends at ${trim.recordedMs} ms; an edge cannot lie at ${atMs} ms.`
    );
  if (edge === 'start' ? atMs >= piece.toMs : atMs <= piece.fromMs)
    return problem('bad_times', 'The edge would pass the other edge of its piece. Take the piece out instead.');
  const ids = idsOf(command);
  const [fromMs, toMs] = edge === 'start' ? [atMs, piece.toMs] : [piece.fromMs, atMs];
  const moved = { ...piece, fromMs, toMs };
  const pieces = trim.pieces.with(at, moved);
  const isShorter = fromMs > piece.fromMs || toMs < piece.toMs;
  if (isShorter) {
    const left = makeStretch(ids(), edge === 'start' ? piece.fromMs : toMs, edge === 'start' ? fromMs : piece.toMs, {
      silent: piece.silent,
      gainDb: piece.gainDb,
      out: 'closed'
    });
    return withPieces(trim, pieces.toSpliced(edge === 'start' ? at : at + 1, 0, left));
  }
  const step = edge === 'start' ? -1 : 1;
  let besideAt = at + step;
  let edgeMs: number = edge === 'start' ? piece.fromMs : piece.toMs;
  // Taken from the pieces beside it that were taken out, as far as they go on from it.
  for (;;) {
    const beside = pieces[besideAt];
    if (beside?.kind !== 'stretch' || beside.out === 'no') break;
    if ((edge === 'start' ? beside.toMs : beside.fromMs) !== edgeMs) break;
    const restMs = edge === 'start' ? clamp(atMs, beside.fromMs, beside.toMs) : clamp(atMs, beside.fromMs, beside.toMs);
    const isGone = edge === 'start' ? restMs === beside.fromMs : restMs === beside.toMs;
    if (!isGone) {
      pieces[besideAt] = edge === 'start' ? { ...beside, toMs: restMs } : { ...beside, fromMs: restMs };
      break;
    }
    edgeMs = restMs;
    pieces.splice(besideAt, 1);
    if (edge === 'start') besideAt--;
  }
  return withPieces(trim, pieces);
}

function setPieces(trim: Trim, command: CommandOf<'setPieces'>): Result<Trim, TrimProblem> {
  const bad = findBadSpan(
    trim,
    command.pieces.filter((piece) => piece.kind !== 'pause')
  );
  if (bad !== null) return bad;
  const ids = idsOf(command);
  const given = command.pieces.map((piece): Piece =>
    piece.kind === 'pause'
      ? { id: ids(), kind: 'pause', lengthMs: piece.lengthMs, fadeMs: piece.fadeMs ?? null }
      : makeStretch(ids(), piece.fromMs, piece.toMs, {
          silent: piece.kind === 'silence',
          gainDb: piece.gainDb ?? 0,
          fadeMs: piece.fadeMs ?? null
        })
  );
  // The rest is taken out: each part stands behind what was recorded before it.
  const heard = given.filter((piece) => piece.kind === 'stretch');
  const pieces = [...joinPieces(given)];
  for (const { fromMs, toMs } of uncoveredBy(heard, trim.recordedMs)) {
    const behind = pieces.findLastIndex((piece) => piece.kind === 'stretch' && piece.toMs === fromMs);
    pieces.splice(behind + 1, 0, makeStretch(ids(), fromMs, toMs, { out: 'closed' }));
  }
  return withPieces(trim, pieces);
}
