/** Joins that are likely to be heard, from the waveform's levels and the speech map, each with a better edge where there is one. */
import { LEVEL_BUCKET_MS, LEVEL_BYTES, rmsOf, type SpeechMap } from '../audio';
import { clamp, type Ms } from '../time';
import { quietEdge, type CutSound } from './edges';
import { joinsOf, mapOf, type Join, type LaidPiece } from './map';
import { speechLevel } from './pauses';
import type { Trim } from './trim';

/**
 * `in a sound`: the cut goes through something loud. `breath`: through something soft that goes on beyond it. `level`,
 * `background`, `pitch`: one side is unlike the other.
 */
export const JOIN_FAULTS = ['in a sound', 'breath', 'level', 'background', 'pitch'] as const;
export type JoinFault = (typeof JOIN_FAULTS)[number];

/** An edge that would be heard less. */
export interface BetterEdge {
  readonly pieceId: string;
  readonly edge: 'start' | 'end';
  /** Recorded time. */
  readonly atMs: Ms;
}

export interface JudgedJoin {
  /** Trimmed time. */
  readonly atMs: Ms;
  /** Of the pieces that meet there. */
  readonly beforeId: string;
  readonly afterId: string;
  readonly fadeMs: number;
  /** Most telling first; none where nothing is likely to be heard. */
  readonly faults: readonly JoinFault[];
  readonly better: readonly BetterEdge[];
}

export interface JoinEvidence extends CutSound {
  readonly speech: SpeechMap;
  /** Natural logarithm of the pitch in a stretch of recorded time; `null` where nothing is voiced. Left out, pitch is not judged. */
  readonly pitchOf?: (fromMs: number, toMs: number) => number | null;
}

const EDGE_MS = 20;
const AROUND_MS = 500;
const PITCH_MS = 200;
/** So far an edge is moved for the better. */
const REACH_MS = 220;
const [FLOOR, SAID] = [0.1, 0.9];
const LIMITS = {
  ...{ loudBelowSpeechDb: 14, saidBelowSpeechDb: 20, breathAboveRoomDb: 9 },
  ...{ levelDb: 9, backgroundDb: 7, pitch: 0.3, betterDb: 6 }
};

const db = (amplitude: number): number => 20 * Math.log10(Math.max(amplitude, 1e-5));

/** In playing order. What goes on in one sound is no join that could be heard. */
export function judgeJoins(trim: Pick<Trim, 'pieces' | 'fadeMs'>, evidence: JoinEvidence): JudgedJoin[] {
  const speechDb = db(speechLevel(evidence.levels, evidence.speech));
  return joinsOf(mapOf(trim)).map((join) => ({
    atMs: join.atMs,
    beforeId: join.before.piece.id,
    afterId: join.after.piece.id,
    fadeMs: join.after.piece.fadeMs ?? trim.fadeMs,
    ...judge(join, evidence, speechDb)
  }));
}

/** A side of a join that is sound. */
interface Side {
  readonly laid: LaidPiece;
  readonly edge: 'start' | 'end';
  /** Recorded time of the edge. */
  readonly cutMs: number;
  readonly startMs: number;
  readonly endMs: number;
}

function sideOf(laid: LaidPiece, edge: 'start' | 'end'): Side | null {
  if (laid.plays !== 'sound' || laid.fromMs === null) return null;
  const endMs = laid.fromMs + laid.endMs - laid.startMs;
  return { laid, edge, cutMs: edge === 'start' ? laid.fromMs : endMs, startMs: laid.fromMs, endMs };
}

function judge(
  { before, after }: Join,
  evidence: JoinEvidence,
  speechDb: number
): Pick<JudgedJoin, 'faults' | 'better'> {
  const end = sideOf(before, 'end');
  const start = sideOf(after, 'start');
  if (end !== null && start?.cutMs === end.cutMs) {
    // One sound that goes on: only another gain could be heard in it.
    const gain = (one: LaidPiece): number => (one.piece.kind === 'stretch' ? one.piece.gainDb : 0);
    return { faults: Math.abs(gain(before) - gain(after)) > LIMITS.levelDb ? ['level'] : [], better: [] };
  }
  const sides = [end, start].filter((side) => side !== null);
  const faults: JoinFault[] = [];
  const better: BetterEdge[] = [];
  for (const side of sides) {
    const fault = cutThrough(side, evidence, speechDb);
    if (fault === null) continue;
    if (!faults.includes(fault)) faults.push(fault);
    const edge = betterEdge(side, evidence);
    if (edge !== null) better.push(edge);
  }
  if (end !== null && start !== null) faults.push(...unlike(end, start, evidence, speechDb));
  return { faults, better };
}

function levelDb({ levels }: CutSound, fromMs: number, toMs: number): number {
  const [from, to] = bucketsOf(levels, fromMs, toMs);
  let power = 0;
  for (let bucket = from; bucket < to; bucket++) power += rmsOf(levels, bucket) ** 2;
  return db(Math.sqrt(power / Math.max(1, to - from)));
}

/** The level that so much of the time is quieter than: a tenth, of what is heard when nobody speaks; nine, of what is said. */
function shareDb({ levels }: CutSound, [fromMs, toMs]: readonly [number, number], share: number): number {
  const [from, to] = bucketsOf(levels, fromMs, toMs);
  const found: number[] = [];
  for (let bucket = from; bucket < to; bucket++) found.push(rmsOf(levels, bucket));
  found.sort((a, b) => a - b);
  return db(found[Math.floor(found.length * share)] ?? 0);
}

function bucketsOf(levels: Uint8Array, fromMs: number, toMs: number): readonly [number, number] {
  const count = Math.floor(levels.length / LEVEL_BYTES);
  return [Math.max(0, Math.floor(fromMs / LEVEL_BUCKET_MS)), Math.min(count, Math.ceil(toMs / LEVEL_BUCKET_MS))];
}

function cutThrough({ cutMs }: Side, evidence: JoinEvidence, speechDb: number): 'in a sound' | 'breath' | null {
  const here = [levelDb(evidence, cutMs - EDGE_MS, cutMs), levelDb(evidence, cutMs, cutMs + EDGE_MS)];
  const quieter = Math.min(...here);
  if (quieter > speechDb - LIMITS.loudBelowSpeechDb) return 'in a sound';
  const roomDb = shareDb(evidence, [cutMs - AROUND_MS, cutMs + AROUND_MS], FLOOR);
  return quieter > Math.max(roomDb + LIMITS.breathAboveRoomDb, speechDb - 36) ? 'breath' : null;
}

function betterEdge({ laid, edge, cutMs, startMs, endMs }: Side, evidence: JoinEvidence): BetterEdge | null {
  const least = edge === 'start' ? cutMs - REACH_MS : Math.max(cutMs - REACH_MS, startMs + 1);
  const most = edge === 'start' ? Math.min(cutMs + REACH_MS, endMs - 1) : cutMs + REACH_MS;
  const recordedMs = Math.floor(evidence.levels.length / LEVEL_BYTES) * LEVEL_BUCKET_MS;
  const atMs = quietEdge(evidence, cutMs, { leastMs: Math.max(0, least), mostMs: clamp(most, 0, recordedMs) });
  const now = levelDb(evidence, cutMs - EDGE_MS / 2, cutMs + EDGE_MS / 2);
  const then = levelDb(evidence, atMs - EDGE_MS / 2, atMs + EDGE_MS / 2);
  return now - then < LIMITS.betterDb ? null : { pieceId: laid.piece.id, edge, atMs };
}

function unlike(end: Side, start: Side, evidence: JoinEvidence, speechDb: number): JoinFault[] {
  const faults: JoinFault[] = [];
  const before = [Math.max(end.startMs, end.cutMs - AROUND_MS), end.cutMs] as const;
  const after = [start.cutMs, Math.min(start.endMs, start.cutMs + AROUND_MS)] as const;
  const said = [shareDb(evidence, before, SAID), shareDb(evidence, after, SAID)] as const;
  const areBothSaid = Math.min(...said) > speechDb - LIMITS.saidBelowSpeechDb;
  if (areBothSaid && Math.abs(said[0] - said[1]) > LIMITS.levelDb) faults.push('level');
  const floors = [shareDb(evidence, before, FLOOR), shareDb(evidence, after, FLOOR)] as const;
  // Where somebody speaks without a pause the room is not heard.
  const isRoom = Math.max(...floors) < speechDb - LIMITS.loudBelowSpeechDb && Math.max(...floors) > speechDb - 45;
  if (isRoom && Math.abs(floors[0] - floors[1]) > LIMITS.backgroundDb) faults.push('background');
  const pitches = [
    evidence.pitchOf?.(Math.max(end.startMs, end.cutMs - PITCH_MS), end.cutMs) ?? null,
    evidence.pitchOf?.(start.cutMs, Math.min(start.endMs, start.cutMs + PITCH_MS)) ?? null
  ] as const;
  if (pitches[0] !== null && pitches[1] !== null && Math.abs(pitches[0] - pitches[1]) > LIMITS.pitch)
    faults.push('pitch');
  return faults;
}
