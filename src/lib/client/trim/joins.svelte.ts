/** The joins of the trim in hand: gone to, heard, and bettered. */
import { wholeMs, type Ms } from '$lib/core/time';
import { joinsOf, type JoinFault, type JudgedJoin, type TrimCommand } from '$lib/core/trims';
import { api } from '../api';
import { phrases } from '../phrases';
import { whenHandsRest } from '../rest';
import { stepRound } from '../step-round';
import type { TrimInHand } from './in-hand';

/** Played before and behind a join. */
export const AROUND_JOIN_MS = 1500;
const STEP_MS = 10;

export class Joins {
  readonly #trimming: TrimInHand;
  #judged: readonly JudgedJoin[] = $state.raw([]);
  /** In hand; -1 for none. */
  at = $state(-1);

  constructor(trimming: TrimInHand) {
    this.#trimming = trimming;
  }

  /** With what was judged of them. */
  readonly list: readonly (Pick<JudgedJoin, 'atMs' | 'faults' | 'better' | 'fadeMs'> & {
    readonly startMs: Ms;
    readonly afterId: string;
    readonly beforeId: string;
  })[] = $derived.by(() => {
    const { map, trim } = this.#trimming;
    if (map === null || trim === null) return [];
    const judged = new Map(this.#judged.map((one) => [`${one.beforeId} ${one.afterId}`, one]));
    return joinsOf(map).map(({ atMs, before, after }) => {
      const known = judged.get(`${before.piece.id} ${after.piece.id}`);
      return {
        ...{ atMs, startMs: atMs, beforeId: before.piece.id, afterId: after.piece.id },
        fadeMs: after.piece.fadeMs ?? trim.fadeMs,
        faults: known?.faults ?? [],
        better: known?.better ?? []
      };
    });
  });

  /** Of the joins that were judged, by the piece that begins there. */
  readonly faultsOf: ReadonlyMap<string, readonly JoinFault[]> = $derived.by(
    () => new Map(this.#judged.map(({ afterId, faults }) => [afterId, faults]))
  );
  /** The piece that begins at the join in hand. */
  readonly hereId: string | null = $derived.by(() => (this.at < 0 ? null : (this.list[this.at]?.afterId ?? null)));

  /** Of another trim. */
  begin(): void {
    this.#judged = [];
    this.at = -1;
  }

  /** Asks which are likely to be heard, once hands rest; returns a function that does not. */
  judge(): () => void {
    const { session } = this.#trimming;
    if (session === null) return () => undefined;
    void session.document;
    return whenHandsRest(() => {
      void session.saved().then(
        async () => {
          const { joins } = await api.trimJoins(session.id);
          if (this.#trimming.session === session) this.#judged = joins;
        },
        () => undefined
      );
    });
  }

  step(by: 1 | -1): void {
    const { list } = this;
    if (list.length === 0) return this.#trimming.say(phrases.trimming.noJoins);
    const nowMs = wholeMs(this.#trimming.nowMs);
    this.at = stepRound(list, by, { at: Math.min(this.at, list.length - 1), nowMs });
    this.hear();
  }

  choose(afterId: string): void {
    this.at = this.list.findIndex((join) => join.afterId === afterId);
    this.hear();
  }

  hear(): void {
    const join = this.list[this.at];
    if (join === undefined) return this.#trimming.say(phrases.trimming.chooseJoin);
    this.#trimming.playOnce(join.atMs - AROUND_JOIN_MS, join.atMs + AROUND_JOIN_MS);
    this.#trimming.say(phrases.trimming.join(this.at + 1, this.list.length, join.faults));
  }

  /** Moves an edge at the join in hand: of what ends there, or of what begins there. */
  nudge(side: 'before' | 'after', by: 1 | -1): void {
    const join = this.list[this.at];
    const id = side === 'before' ? join?.beforeId : join?.afterId;
    const piece = this.#trimming.trim?.pieces.find((one) => one.id === id);
    if (piece?.kind !== 'stretch') return this.#trimming.say(phrases.trimming.chooseJoin);
    const edge = side === 'before' ? 'end' : 'start';
    const atMs = wholeMs(Math.max(0, (edge === 'end' ? piece.toMs : piece.fromMs) + by * STEP_MS));
    this.#trimming.edit({ type: 'moveEdge', pieceId: piece.id, edge, atMs });
  }

  takeBetterEdge(): void {
    const join = this.list[this.at];
    if (join === undefined || join.better.length === 0) return this.#trimming.say(phrases.trimming.noBetter);
    if (this.#trimming.edit(...join.better.map((better): TrimCommand => ({ type: 'moveEdge', ...better }))))
      this.hear();
  }
}
