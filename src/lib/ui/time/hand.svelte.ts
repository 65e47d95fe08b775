/** The hand on the trellis: cues and edges dragged, alone or together, new cues drawn over empty sound. */
import { asCueId, asWordId } from '$lib/core/id';
import { clamp, lastStartingBy, type Ms, type Span, toSpan, wholeMs } from '$lib/core/time';
import { findSnap, type Snap } from '$lib/core/timing';
import { compareCues, countCharacters, lookUp, plainLines, type Cue } from '$lib/core/track';
import { LEAST_LENGTH_MS, type CueTimes, type Edge } from '$lib/client/cue-commands.svelte';
import type { TrackDesk } from '$lib/client/track-desk.svelte';
import type { Geometry } from './geometry';

interface Drag {
  readonly cue: Cue;
  readonly part: Edge | 'body';
  /** Time under the pointer where the drag began. */
  readonly grabbedMs: Ms;
  readonly x: number;
  readonly y: number;
  readonly hasMoved: boolean;
  /** Alt was down. */
  readonly isFine: boolean;
  /** What the cues in hand become; nothing is changed before they are let go. */
  readonly times: readonly CueTimes[];
  /** Where an edge has been caught. */
  readonly caught: Snap | null;
}
type Held = Pick<Drag, 'times' | 'caught'>;

/** An edge snaps at this distance. */
const SNAP_PX = 6;
/** A hand that slips while it clicks draws no cue. */
const LEAST_DRAWN_MS = 250;
const CAUGHT: Readonly<Record<Snap['kind'], string>> = {
  word: 'at a word',
  speech: 'at speech',
  shot: 'at a shot change',
  neighbour: 'at its neighbour'
};

interface Ground {
  /** `null` where there is none. */
  readonly timeUnder: (event: PointerEvent) => Ms | null;
  readonly geometry: Geometry;
}

export class Hand {
  readonly #desk: TrackDesk;
  readonly #ground: Ground;
  #drag: Drag | null = $state.raw(null);
  /** A new cue, from where the hand went down. */
  drawing: (Span & { readonly fromMs: Ms }) | null = $state.raw(null);
  pointer = $state.raw({ x: 0, y: 0 });

  constructor(desk: TrackDesk, ground: Ground) {
    this.#desk = desk;
    this.#ground = ground;
  }

  readonly isMoving: boolean = $derived(this.#drag?.hasMoved === true);
  readonly isBusy: boolean = $derived(this.#drag !== null);
  /** Where an edge in hand has been caught. */
  readonly caught: Snap | null = $derived(this.#drag?.caught ?? null);

  /** Cues with the times of those in hand. */
  readonly cues: readonly Cue[] = $derived.by(() => {
    const all = this.#desk.drawn.cues;
    if (this.#drag === null || !this.#drag.hasMoved) return all;
    const times = new Map(this.#drag.times.map((one) => [one.cueId, one]));
    return all
      .map((cue) => {
        const moved = times.get(cue.id);
        return moved === undefined ? cue : { ...cue, startMs: moved.startMs, endMs: moved.endMs };
      })
      .sort(compareCues);
  });

  /** Figures of the cue as the drag would leave it. */
  readonly figures: string | null = $derived.by(() => {
    const held = this.#drag;
    const span =
      this.drawing ?? (held?.hasMoved === true ? held.times.find(({ cueId }) => cueId === held.cue.id) : null);
    if (span == null || span.endMs <= span.startMs) return null;
    const seconds = (span.endMs - span.startMs) / 1000;
    const parts = [
      `${this.#desk.on.showTime(span.startMs)} to ${this.#desk.on.showTime(span.endMs)}`,
      `${seconds.toFixed(2)} s`
    ];
    if (held !== null) {
      const { track } = this.#desk;
      const speed = countCharacters(plainLines(track, held.cue).join(' ')) / seconds;
      parts.push(
        `${Math.round(speed)} characters per second${speed > track.rules.maxCharsPerSecond ? ': too fast' : ''}`
      );
      if (held.times.length > 1) parts.push(`${held.times.length} cues`);
      if (held.caught !== null) parts.push(CAUGHT[held.caught.kind]);
    }
    return parts.join(' · ');
  });

  /** True: the pointer is to be captured. */
  down(event: PointerEvent): boolean {
    const desk = this.#desk;
    if (event.button !== 0 || !(event.target instanceof Element)) return false;
    const word = event.target.closest<HTMLElement>('[data-word]');
    if (word !== null) {
      desk.chooseWord(lookUp(desk.track).findWord(asWordId(word.dataset.word!)));
      return false;
    }
    const held = event.target.closest<HTMLElement>('[data-part]');
    const ms = this.#ground.timeUnder(event);
    if (ms === null) return false;
    const cue = lookUp(desk.track).findCue(asCueId(held?.dataset.cue ?? ''));
    desk.session.flush();
    this.pointer = { x: event.clientX, y: event.clientY };
    if (held === null || cue === undefined) {
      desk.seek(ms);
      if (desk.cueAt(ms) !== null || desk.trial.track !== null) return false;
      this.drawing = { fromMs: ms, startMs: ms, endMs: ms };
      return true;
    }
    if (event.shiftKey || event.ctrlKey || event.metaKey) {
      if (event.shiftKey) desk.cues.extendTo(cue);
      else desk.cues.toggle(cue);
      desk.player.seek(cue.startMs);
      return false;
    }
    // One of several that are chosen may move them all: it is chosen alone when it is let go where it was.
    if (!desk.cues.chosenIds.has(cue.id)) desk.chooseCue(cue);
    if (desk.trial.track !== null) return false;
    const part = held.dataset.part === 'start' || held.dataset.part === 'end' ? held.dataset.part : 'body';
    this.#drag = {
      ...{ cue, part, grabbedMs: ms, x: event.clientX, y: event.clientY },
      ...{ hasMoved: false, isFine: event.altKey, times: [], caught: null }
    };
    return true;
  }

  move(event: PointerEvent): void {
    if (this.#drag === null && this.drawing === null) return;
    this.pointer = { x: event.clientX, y: event.clientY };
    const under = this.#ground.timeUnder(event);
    if (under === null) return;
    if (this.drawing !== null) return this.#drawTo(under, event);
    const held = this.#drag;
    if (held === null) return;
    if (!held.hasMoved && Math.hypot(event.clientX - held.x, event.clientY - held.y) < 3) return;
    // Far out a pixel is long: Shift makes the hand ten times finer.
    const byMs = (under - held.grabbedMs) * (event.shiftKey && this.#ground.geometry.density !== 'close' ? 0.1 : 1);
    const now = held.part === 'body' ? this.#body(held.cue, byMs, event) : this.#edge(held.cue, held.part, byMs, event);
    this.#drag = { ...held, ...now, hasMoved: true };
  }

  up(): void {
    const [held, drawn] = [this.#drag, this.drawing];
    this.letGo();
    if (drawn !== null && drawn.endMs - drawn.startMs >= LEAST_DRAWN_MS) {
      this.#desk.cues.draw(drawn);
      this.#desk.surface?.enter();
    }
    if (held?.hasMoved === false) {
      // A click plays from the cue's start; with Alt from where it was clicked.
      this.#desk.chooseCue(held.cue);
      this.#desk.player.seek(held.isFine ? held.grabbedMs : held.cue.startMs);
    }
    if (held?.hasMoved === true) {
      const { findCue } = lookUp(this.#desk.track);
      this.#desk.cues.time(
        held.times.filter(({ cueId, startMs, endMs }) => {
          const cue = findCue(cueId);
          return cue !== undefined && (cue.startMs !== startMs || cue.endMs !== endMs);
        })
      );
    }
  }

  /** Nothing comes of what is in hand; whether there was anything. */
  letGo(): boolean {
    const hadSomething = this.#drag !== null || this.drawing !== null;
    this.#drag = null;
    this.drawing = null;
    return hadSomething;
  }

  #snap(ms: number, but: ReadonlySet<string>): { ms: Ms; caught: Snap | null } {
    const { spokenOrder: words, sound, track, on } = this.#desk;
    const caught = findSnap(wholeMs(ms), {
      ...{ reachMs: SNAP_PX / this.#ground.geometry.pxPerMs, words, shotsMs: on.shotsMs, but },
      ...{ regions: sound?.speech.regions ?? [], cues: track.cues, minGapMs: track.rules.minGapMs }
    });
    return { ms: wholeMs(caught?.ms ?? ms), caught };
  }

  #body(cue: Cue, byMs: number, event: PointerEvent): Held {
    const { cues } = this.#desk;
    const isFree = event.ctrlKey || event.metaKey;
    const { ms, caught } = isFree
      ? { ms: cue.startMs + byMs, caught: null }
      : this.#snap(cue.startMs + byMs, cues.chosenIds);
    const startMs = Math.max(0, Math.round(ms));
    if (isFree && cues.chosen.length === 1)
      return {
        times: [{ cueId: cue.id, ...toSpan({ startMs, endMs: startMs + cue.endMs - cue.startMs }) }],
        caught
      };
    return { times: cues.moveTimes(cues.chosen, startMs - cue.startMs), caught };
  }

  #edge(cue: Cue, edge: Edge, byMs: number, event: PointerEvent): Held {
    const { cues } = this.#desk;
    const isFree = event.ctrlKey || event.metaKey;
    const from = edge === 'start' ? cue.startMs : cue.endMs;
    const partner = event.altKey || isFree ? null : cues.partnerOf(cue, edge);
    const own = new Set([cue.id, ...(partner === null ? [] : [partner.id])]);
    const found = isFree ? { ms: from + byMs, caught: null } : this.#snap(from + byMs, own);
    const ms = Math.max(0, Math.round(found.ms));
    const wanted = toSpan(
      edge === 'start'
        ? { startMs: Math.min(ms, cue.endMs - LEAST_LENGTH_MS), endMs: cue.endMs }
        : { startMs: cue.startMs, endMs: Math.max(ms, cue.startMs + LEAST_LENGTH_MS) }
    );
    if (isFree) return { times: [{ cueId: cue.id, ...wanted }], caught: null };
    const limited = cues.limit(cue, wanted, edge, own);
    if (partner === null) return { times: cues.edgeTimes(cue, edge, limited), caught: found.caught };
    // Two that touch share their edge: the gap between them stays.
    const shortest = (one: Cue): number => one.endMs - one.startMs - LEAST_LENGTH_MS;
    const by =
      edge === 'start'
        ? clamp(limited.startMs - cue.startMs, -shortest(partner), shortest(cue))
        : clamp(limited.endMs - cue.endMs, -shortest(cue), shortest(partner));
    const shift = (one: Cue, at: Edge): CueTimes => ({
      cueId: one.id,
      ...toSpan({
        startMs: one.startMs + (at === 'start' ? by : 0),
        endMs: one.endMs + (at === 'end' ? by : 0)
      })
    });
    return { times: [shift(cue, edge), shift(partner, edge === 'start' ? 'end' : 'start')], caught: found.caught };
  }

  /** From where the hand went down to where it is, within the free stretch. */
  #drawTo(under: Ms, event: PointerEvent): void {
    const fromMs = this.drawing!.fromMs;
    const { track, recording } = this.#desk;
    const { minGapMs } = track.rules;
    const before = lastStartingBy(track.cues, fromMs);
    const least = before < 0 ? 0 : track.cues[before]!.endMs + minGapMs;
    const most = (track.cues[before + 1]?.startMs ?? recording.durationMs + minGapMs) - minGapMs;
    const isFree = event.ctrlKey || event.metaKey;
    const settle = (ms: number): Ms =>
      wholeMs(clamp(Math.round(isFree ? ms : this.#snap(ms, new Set()).ms), least, Math.max(least, most)));
    this.drawing = { fromMs, startMs: settle(Math.min(fromMs, under)), endMs: settle(Math.max(fromMs, under)) };
  }
}
