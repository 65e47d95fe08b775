/** What is done with cues: split, merged, moved alone or together, timed, stepped through. Acts on those chosen. */
import { asCueId, type CueId, type WordId } from '$lib/core/id';
import { checkCue } from '$lib/core/checks';
import type { ClientCommand } from '$lib/core/commands';
import { breakIntoLines } from '$lib/core/cueing';
import { clamp, lastStartingBy, type Ms, type ReckonedSpan, type Span, toSpan, wholeMs } from '$lib/core/time';
import { lookUp, writtenLines, shownWords, type Cue, type Word } from '$lib/core/track';
import { preferences } from './preferences.svelte';
import type { TrackView } from './track-view.svelte';
import { phrases } from './phrases';

/** No hand makes a cue shorter. */
export const LEAST_LENGTH_MS = 100;
/** A gap this long is worth a look. */
const WIDE_GAP_MS = 2000;
/** What may be stepped to. */
export type Landmark = 'finding' | 'bookmark' | 'gap' | 'shot';

export type Edge = 'start' | 'end';
export interface CueTimes extends Span {
  readonly cueId: CueId;
}

export class CueCommands {
  readonly #view: TrackView;
  /** Where a held key began to time. */
  #heldFromMs: Ms | null = null;

  constructor(view: TrackView) {
    this.#view = view;
  }

  /** Every chosen cue, in order. */
  readonly chosen: readonly Cue[] = $derived.by(() => {
    const { cue, track } = this.#view;
    if (this.#view.otherCueIds.size === 0) return cue === null ? [] : [cue];
    return track.cues.filter((one) => one.id === cue?.id || this.#view.otherCueIds.has(one.id));
  });
  /**
   * Ids of the chosen cues, possibly with some that are gone. It does not depend on the track, because every drawn cue
   * reads it.
   */
  readonly chosenIds: ReadonlySet<CueId> = $derived.by(() => {
    const { cueId, otherCueIds } = this.#view;
    return new Set(cueId === null ? otherCueIds : [cueId, ...otherCueIds]);
  });

  /** The end of the chosen range that moves; the other is the cue on the card. */
  #endId: CueId | null = null;

  /** Chooses another one too, which comes on the card, or lets it go. */
  toggle(cue: Cue): void {
    const ids = new Set(this.chosenIds);
    const isLetGo = ids.size > 1 && ids.delete(cue.id);
    if (!isLetGo) return this.#chooseAll(ids.add(cue.id), cue.id);
    const { cueId } = this.#view;
    this.#chooseAll(ids, cueId !== null && ids.has(cueId) ? cueId : [...ids][0]!);
  }

  /** Chooses every cue from the one on the card to this one. */
  extendTo(cue: Cue | undefined): void {
    const { track, cueIndex } = this.#view;
    const at = cue === undefined ? undefined : lookUp(track).cueAt.get(cue.id);
    if (cue === undefined || at === undefined || cueIndex < 0) return;
    const range = track.cues.slice(Math.min(at, cueIndex), Math.max(at, cueIndex) + 1);
    this.#chooseAll(new Set(range.map((one) => one.id)), this.#view.cueId!);
    this.#endId = cue.id;
  }

  /** One cue more or less from the one on the card. */
  extend(by: 1 | -1): void {
    const { track, cueIndex } = this.#view;
    const { cueAt } = lookUp(track);
    const isRange = this.#view.otherCueIds.size > 0 && this.#endId !== null && this.chosenIds.has(this.#endId);
    const end = isRange ? (cueAt.get(this.#endId!) ?? cueIndex) : cueIndex;
    this.extendTo(track.cues[clamp(end + by, 0, track.cues.length - 1)]);
  }

  chooseAll(): void {
    const { cues } = this.#view.track;
    if (cues[0] === undefined) return this.#view.say(phrases.cueCommands.noCues);
    this.#chooseAll(new Set(cues.map((cue) => cue.id)), this.#view.cueId ?? cues[0].id);
  }

  #chooseAll(ids: ReadonlySet<CueId>, onCard: CueId): void {
    const view = this.#view;
    Object.assign(view, { cueId: onCard, otherCueIds: ids.size > 1 ? ids : new Set(), wordId: null, chosenIds: [] });
    view.say(phrases.cueCommands.chosen(this.chosen.length));
  }

  /** `Locked` for one cue, `12 cues: locked` for more. */
  #said(what: string): string {
    const count = this.chosen.length;
    return count > 1 ? `${count} cues: ${what[0]!.toLowerCase()}${what.slice(1)}` : what;
  }

  /** Splits before the word with the caret, else the chosen one, else the one at the playhead. */
  split(): void {
    const view = this.#view;
    const inHand = view.wordAtCaret() ?? view.wordId;
    const { cue } = view;
    if (cue === null) return view.say(phrases.cueCommands.chooseToSplit);
    const words = shownWords(view.track, cue);
    const { nowMs } = view.player;
    const nearest = words
      .slice(1)
      .reduce<Word | undefined>(
        (best, word) =>
          best === undefined || Math.abs(word.startMs - nowMs) < Math.abs(best.startMs - nowMs) ? word : best,
        undefined
      );
    const chosen = words.find((word, place) => word.id === inHand && place > 0) ?? nearest;
    if (chosen === undefined) return view.say(phrases.cueCommands.oneWord);
    const newCueId = asCueId(crypto.randomUUID());
    if (view.edit([{ type: 'splitCue', cueId: cue.id, wordId: chosen.id, newCueId }], phrases.cueCommands.split))
      view.chooseCue(this.#find(newCueId));
  }

  /** Merges those chosen, one alone with the next or the one before. */
  merge(by: 1 | -1): void {
    const view = this.#view;
    const { cue, cueIndex } = view;
    const neighbour = view.track.cues[cueIndex + by];
    const pair = by > 0 ? [cue, neighbour] : [neighbour, cue];
    const cues = this.chosen.length > 1 ? this.chosen : pair.filter((one) => one != null);
    if (cues.length < 2) return view.say(phrases.cueCommands.nothingToMerge(by));
    const seam = shownWords(view.track, cues[1]!)[0];
    const said = cues.length > 2 ? phrases.cueCommands.mergedAll(cues.length) : phrases.cueCommands.merged;
    if (!view.edit([{ type: 'mergeCues', cueIds: cues.map((one) => one.id) }], said)) return;
    view.chooseCue(this.#find(cues[0]!.id));
    // Where they met is in hand: split parts them there again.
    if (seam !== undefined) view.chooseWords([seam.id]);
  }

  /** Moves the border of the chosen cue and the next by one word; the times follow the words. */
  moveBorder(direction: 'pull' | 'push'): void {
    const { cue } = this.#view;
    if (cue === null) return this.#view.say(phrases.cueCommands.chooseACue);
    this.#view.edit([{ type: 'moveBorder', cueId: cue.id, direction }]);
  }

  /** The words of the cue set in lines as the rules break them best. */
  balance(): void {
    const { track } = this.#view;
    this.#setLines((words) => breakIntoLines(words, track));
  }

  /** Begins a line at the word with the caret, else the chosen one, or joins it to the line before. */
  breakLine(): void {
    const wordId = this.#view.wordAtCaret() ?? this.#view.wordId;
    const { cue } = this.#view;
    if (cue === null || wordId === null) return this.#view.say(phrases.cueCommands.chooseLineStart);
    this.#setLines((words) => {
      const starts = new Set(cue.lineStarts);
      if (!starts.delete(wordId)) starts.add(wordId);
      return words.map((word) => word.id).filter((id) => starts.has(id));
    });
  }

  #setLines(startsOf: (words: readonly Word[]) => readonly WordId[]): void {
    const { track } = this.#view;
    const commands = this.chosen.flatMap((cue) => {
      const lineStarts = startsOf(shownWords(track, cue));
      const lines = writtenLines(track, { ...cue, lineStarts });
      return lines.length === 0 ? [] : [{ type: 'setCueText' as const, cueId: cue.id, lines }];
    });
    this.#view.edit(commands, this.chosen.length > 1 ? this.#said(phrases.cueCommands.linesSet) + '.' : undefined);
  }

  remove(): void {
    const view = this.#view;
    const { cueIndex } = view;
    if (this.chosen.length === 0) return;
    const count = this.chosen.length;
    const commands = this.chosen.map((cue) => ({ type: 'removeCue' as const, cueId: cue.id }));
    const said = count === 1 ? phrases.cueCommands.deleted : phrases.cueCommands.deletedAll(count);
    if (view.edit(commands, said)) view.chooseCue(view.track.cues[Math.min(cueIndex, view.track.cues.length - 1)]);
  }

  /** A cue without text from the playhead to where there is room, at least half a second. */
  add(): string | null {
    const view = this.#view;
    const startMs = Math.max(0, view.player.nowMs);
    const { minGapMs } = view.track.rules;
    const next = view.track.cues[lastStartingBy(view.track.cues, startMs) + 1];
    const endMs = Math.min(startMs + 2000, next === undefined ? Number.POSITIVE_INFINITY : next.startMs - minGapMs);
    if (view.cueAt(startMs) !== null || endMs - startMs < 500) {
      view.say(phrases.cueCommands.noRoom);
      return null;
    }
    return this.draw(toSpan({ startMs, endMs }));
  }

  /** A cue without text; its id, or `null` where there can be none. */
  draw(span: Span): string | null {
    const newCueId = asCueId(crypto.randomUUID());
    const view = this.#view;
    if (!view.edit([{ type: 'addCue', ...pick(span), lines: [], newCueId }])) return null;
    view.chooseCue(this.#find(newCueId));
    return newCueId;
  }

  /** Locks those chosen, or unlocks them where all are. */
  toggleLock(): void {
    if (this.chosen.length === 0) return;
    const locked = !this.chosen.every((cue) => cue.locked);
    this.#view.edit(
      this.chosen.map((cue) => ({ type: 'annotateCue' as const, cueId: cue.id, locked })),
      this.#said(locked ? phrases.cueCommands.locked : phrases.cueCommands.unlocked)
    );
  }

  toggleBookmark(): void {
    if (this.chosen.length === 0) return;
    const bookmark = !this.chosen.every((cue) => cue.bookmark);
    this.#view.edit(
      this.chosen.map((cue) => ({ type: 'annotateCue' as const, cueId: cue.id, bookmark })),
      this.#said(bookmark ? phrases.cueCommands.bookmarked : phrases.cueCommands.noBookmark)
    );
  }

  // --- Times ------------------------------------------------------------------------------------------------------

  /** A frame of the picture, or ten milliseconds. */
  get stepMs(): number {
    const { frameRate } = this.#view.recording.media;
    return preferences.nudge === 'frame' && frameRate != null ? 1000 / frameRate : 10;
  }

  /** Sets an edge of the chosen cue; it stops at its neighbour less the least gap, and never passes its other edge. */
  setEdge(edge: Edge, ms: Ms): void {
    const { cue } = this.#view;
    if (cue !== null) this.#view.edit([this.edgeCommand(cue, edge, ms)]);
  }

  edgeCommand(cue: Cue, edge: Edge, ms: Ms): ClientCommand {
    const wanted = edge === 'start' ? { startMs: ms, endMs: cue.endMs } : { startMs: cue.startMs, endMs: ms };
    return timing(this.edgeTimes(cue, edge, this.limit(cue, wanted, edge)));
  }

  /** Moves an edge of every chosen cue by a step; what follows moves along only behind a cue that is alone. */
  nudgeEdge(edge: Edge, by: 1 | -1): void {
    const { cue } = this.#view;
    if (this.chosen.length < 2) {
      if (cue !== null) this.setEdge(edge, wholeMs((edge === 'start' ? cue.startMs : cue.endMs) + by * this.stepMs));
      return;
    }
    const times = this.chosen.map((one) => {
      const wanted = { ...pick(one), [`${edge}Ms`]: (edge === 'start' ? one.startMs : one.endMs) + by * this.stepMs };
      return { cueId: one.id, ...pick(this.limit(one, wanted, edge)) };
    });
    this.#view.edit([timing(times)], this.#said(phrases.cueCommands.edgesMoved(edge)));
  }

  nudge(by: 1 | -1): void {
    const times = this.moveTimes(this.chosen, by * Math.max(1, Math.round(this.stepMs)));
    if (times.length > 0)
      this.#view.edit([timing(times)], times.length > 1 ? phrases.cueCommands.cuesMoved(times.length) : undefined);
  }

  /** Times for an edge moved, with all that follows by as much where they move together. */
  edgeTimes(cue: Cue, edge: Edge, span: Span): readonly CueTimes[] {
    const own = { cueId: cue.id, ...pick(span) };
    return edge === 'end' && preferences.ripple ? [own, ...this.#following(cue, span.endMs - cue.endMs)] : [own];
  }

  /** Times for cues moved together, as far as their neighbours let them; with all that follow where they move together. */
  moveTimes(cues: readonly Cue[], byMs: number): readonly CueTimes[] {
    const [first, last] = [cues[0], cues.at(-1)];
    if (first === undefined || last === undefined) return [];
    const moving = new Set(cues.map((cue) => cue.id));
    const free = cues.reduce((ms, cue) => {
      const wanted = { startMs: cue.startMs + ms, endMs: cue.endMs + ms };
      return this.limit(cue, wanted, 'both', moving).startMs - cue.startMs;
    }, byMs);
    const moved = cues.map((cue) => ({
      cueId: cue.id,
      ...toSpan({ startMs: cue.startMs + free, endMs: cue.endMs + free })
    }));
    return preferences.ripple ? [...moved, ...this.#following(last, free)] : moved;
  }

  #following(cue: Cue, byMs: number): CueTimes[] {
    const { track } = this.#view;
    const from = lookUp(track).cueAt.get(cue.id)! + 1;
    return track.cues.slice(from).map(({ id, startMs, endMs }) => ({
      cueId: id,
      ...toSpan({ startMs: Math.max(0, startMs + byMs), endMs: Math.max(1, endMs + byMs) })
    }));
  }

  time(times: readonly CueTimes[]): void {
    if (times.length > 0) this.#view.edit([timing(times)]);
  }

  /** The cue whose edge touches this one's, or lies the least gap from it: both are one edge to the hand. */
  partnerOf(cue: Cue, edge: Edge): Cue | null {
    const { track } = this.#view;
    const at = lookUp(track).cueAt.get(cue.id)!;
    const other = track.cues[edge === 'start' ? at - 1 : at + 1];
    if (other === undefined) return null;
    const gapMs = edge === 'start' ? cue.startMs - other.endMs : other.startMs - cue.endMs;
    return gapMs >= 0 && gapMs <= track.rules.minGapMs ? other : null;
  }

  /**
   * Limits times so that the least gap to the neighbours stays where it was kept before; cues that move along do not
   * count.
   */
  limit(cue: Cue, wanted: ReckonedSpan, moved: Edge | 'both', along: ReadonlySet<string> = new Set()): Span {
    const { track, recording } = this.#view;
    const { cues, rules } = track;
    const at = lookUp(track).cueAt.get(cue.id)!;
    const before = along.has(cues[at - 1]?.id ?? '') ? undefined : cues[at - 1];
    const isRippling = preferences.ripple && moved !== 'start';
    const after = isRippling || along.has(cues[at + 1]?.id ?? '') ? undefined : cues[at + 1];
    const least =
      before !== undefined && before.endMs <= cue.startMs ? Math.min(cue.startMs, before.endMs + rules.minGapMs) : 0;
    const most =
      after !== undefined && after.startMs >= cue.endMs
        ? Math.max(cue.endMs, after.startMs - rules.minGapMs)
        : recording.durationMs + 60_000;
    if (moved === 'start')
      return {
        startMs: wholeMs(clamp(wanted.startMs, least, cue.endMs - LEAST_LENGTH_MS)),
        endMs: cue.endMs
      };
    if (moved === 'end')
      return {
        startMs: cue.startMs,
        endMs: wholeMs(clamp(wanted.endMs, cue.startMs + LEAST_LENGTH_MS, most))
      };
    const byMs = clamp(wanted.startMs, least, most - (cue.endMs - cue.startMs)) - cue.startMs;
    return toSpan({ startMs: cue.startMs + byMs, endMs: cue.endMs + byMs });
  }

  /** A key goes down: what is said from now on is the cue's. */
  holdStart(): void {
    this.#heldFromMs ??= this.#view.player.nowMs;
  }

  get isHeld(): boolean {
    return this.#heldFromMs !== null;
  }

  /** The window lost the focus, so the release of the key may be missed: no cue is timed. */
  holdLost(): void {
    this.#heldFromMs = null;
    this.#view.say(phrases.cueCommands.keyLost);
  }

  /** The key comes up: the cue that begins nearest gets the time it was held, or a new one where there is none near. */
  holdEnd(): void {
    const startMs = this.#heldFromMs;
    this.#heldFromMs = null;
    const view = this.#view;
    const endMs = view.player.nowMs;
    if (startMs === null || endMs - startMs < LEAST_LENGTH_MS) return;
    const { cues } = view.track;
    const last = lastStartingBy(cues, startMs);
    const near = [cues[last], cues[last + 1]]
      .filter((cue) => cue !== undefined)
      .filter((cue) => cue.startMs < endMs && cue.endMs > startMs)
      .sort((a, b) => Math.abs(a.startMs - startMs) - Math.abs(b.startMs - startMs))[0];
    if (near === undefined) this.draw({ startMs, endMs });
    else {
      const { startMs: limited } = this.limit(near, { startMs, endMs: near.endMs }, 'start');
      const end = this.limit(near, { startMs: near.startMs, endMs }, 'end').endMs;
      this.time([{ cueId: near.id, startMs: wholeMs(Math.min(limited, end - LEAST_LENGTH_MS)), endMs: end }]);
    }
  }

  // --- Stepping -----------------------------------------------------------------------------------------------------

  /** To the next one of a kind behind or ahead of the playhead. */
  stepTo(kind: Landmark, by: 1 | -1): void {
    const view = this.#view;
    const { cues } = view.track;
    const fromMs = view.cue !== null && kind !== 'shot' && kind !== 'gap' ? view.cue.startMs : view.player.nowMs;
    if (kind === 'shot') {
      const list = by > 0 ? view.on.shotsMs : view.on.shotsMs.toReversed();
      const shot = list.find((ms) => (by > 0 ? ms > fromMs + 1 : ms < fromMs - 1));
      if (shot === undefined) return view.say(phrases.cueCommands.noShot);
      return view.seek(shot);
    }
    if (kind === 'gap') {
      const gaps = this.#gaps();
      const gap = (by > 0 ? gaps : gaps.toReversed()).find(({ startMs }) =>
        by > 0 ? startMs > fromMs : startMs < fromMs
      );
      if (gap === undefined) return view.say(phrases.cueCommands.noGap(WIDE_GAP_MS / 1000));
      return view.seek(gap.startMs + 1);
    }
    const here = view.cueIndex < 0 ? lastStartingBy(cues, fromMs) : view.cueIndex;
    const isIt = (index: number): boolean =>
      kind === 'bookmark' ? cues[index]!.bookmark : checkCue(view.track, index, view.recording.durationMs).length > 0;
    for (let index = here + by; index >= 0 && index < cues.length; index += by) {
      if (!isIt(index)) continue;
      view.chooseCue(cues[index], { seek: true });
      if (kind === 'finding') view.say(checkCue(view.track, index, view.recording.durationMs)[0]!.message);
      return;
    }
    view.say(kind === 'bookmark' ? phrases.cueCommands.noBookmarkThatWay : phrases.cueCommands.noBrokenRule);
  }

  /** Stretches between cues that are worth a look, also the one before the first. */
  #gaps(): Span[] {
    const { track, recording } = this.#view;
    const gaps: Span[] = [];
    let freeFromMs = 0;
    for (const cue of [...track.cues, { startMs: recording.durationMs, endMs: recording.durationMs }]) {
      if (cue.startMs - freeFromMs >= WIDE_GAP_MS) gaps.push(toSpan({ startMs: freeFromMs, endMs: cue.startMs }));
      freeFromMs = Math.max(freeFromMs, cue.endMs);
    }
    return gaps;
  }

  #find(id: CueId): Cue | undefined {
    const { track } = this.#view;
    return lookUp(track).findCue(id);
  }
}

function timing(times: readonly CueTimes[]): ClientCommand {
  const [only] = times;
  return times.length === 1 ? { type: 'setCueTimes', ...only! } : { type: 'timeCues', times };
}

const pick = ({ startMs, endMs }: Span): Span => ({ startMs, endMs });
