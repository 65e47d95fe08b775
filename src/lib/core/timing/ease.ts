/**
 * Easing: cues that read too fast get time from the free space around them, the neediest first; small gaps close; edges
 * go to where speech begins and ends and to where the picture changes. Nothing overlaps that did not, and locked cues
 * stay.
 */
import type { CueId } from '../id';
import { lastStartingBy, toSpan, type ReckonedSpan, type Span } from '../time';
import { countCharacters, plainLines, type Cue, type Track } from '../track';

export interface EaseOptions {
  /** A cue that reads too fast may end as much later as this. */
  readonly endLaterMs: number;
  /** And begin as much earlier. */
  readonly startEarlierMs: number;
  /** Gaps shorter than this become the least gap; 0 leaves them. */
  readonly closeGapsBelowMs: number;
  /** How far an edge goes to an edge of speech; 0 for not at all. */
  readonly speechReachMs: number;
  /** How far an edge goes to a shot change; 0 for not at all. */
  readonly shotReachMs: number;
}

export const EASE_DEFAULTS: EaseOptions = {
  endLaterMs: 1500,
  startEarlierMs: 200,
  closeGapsBelowMs: 300,
  speechReachMs: 0,
  shotReachMs: 0
};

/** What is known of the recording; in order. */
export interface EaseContext {
  readonly speech: readonly ReckonedSpan[];
  readonly shotsMs: readonly number[];
  readonly durationMs: number;
}

export interface EaseResult {
  /** The cues that move, with their new times. */
  readonly times: readonly (Span & { readonly cueId: CueId })[];
  readonly tooFastBefore: number;
  readonly tooFastAfter: number;
  /** Gaps that became the least gap. */
  readonly closed: number;
  /** Edges that went to speech or to a shot change. */
  readonly snapped: number;
}

interface Timed {
  readonly cue: Cue;
  readonly characters: number;
  startMs: number;
  endMs: number;
}

/** New times for the cues of the track, those with the given ids alone where they are given. */
export function easeCues(
  track: Track,
  context: EaseContext,
  options: Partial<EaseOptions> = {},
  cueIds?: ReadonlySet<CueId>
): EaseResult {
  const { rules } = track;
  const all = { ...EASE_DEFAULTS, ...options };
  const timed = track.cues.map((cue): Timed => ({
    ...{ cue, startMs: cue.startMs, endMs: cue.endMs },
    characters: countCharacters(plainLines(track, cue).join(' '))
  }));
  const isFree = ({ cue }: Timed): boolean => !cue.locked && (cueIds === undefined || cueIds.has(cue.id));
  /** Where the cue before it ends, with the gap; an overlap that is there stays as it is. */
  const leastStart = (at: number): number => {
    const before = timed[at - 1];
    return before === undefined ? 0 : Math.min(timed[at]!.startMs, before.endMs + rules.minGapMs);
  };
  const mostEnd = (at: number): number => {
    const after = timed[at + 1];
    return after === undefined
      ? Math.max(timed[at]!.endMs, context.durationMs)
      : Math.max(timed[at]!.endMs, after.startMs - rules.minGapMs);
  };
  const neededMs = ({ characters }: Timed): number => Math.ceil((characters * 1000) / rules.maxCharsPerSecond);
  const lackMs = (one: Timed): number => neededMs(one) - (one.endMs - one.startMs);
  const tooFastBefore = timed.filter((one) => lackMs(one) > 0).length;

  let snapped = 0;
  timed.forEach((one, at) => {
    if (!isFree(one)) return;
    const start = snapTo(one.startMs, context, all, 'start');
    const end = snapTo(one.endMs, context, all, 'end');
    const previous = timed[at - 1];
    const next = timed[at + 1];
    const startMs = Math.max(
      start,
      previous === undefined ? 0 : Math.min(one.startMs, previous.endMs + rules.minGapMs)
    );
    const endMs = Math.min(end, next === undefined ? end : Math.max(one.endMs, next.startMs - rules.minGapMs));
    const lengthMs = endMs - startMs;
    // A snap never makes a cue too short, or one that could be read too fast.
    const keeps = lengthMs >= Math.min(one.endMs - one.startMs, Math.max(rules.minDurationMs, neededMs(one)));
    if (!keeps || lengthMs > Math.max(one.endMs - one.startMs, rules.maxDurationMs)) return;
    snapped += Number(startMs !== one.startMs) + Number(endMs !== one.endMs);
    one.startMs = startMs;
    one.endMs = endMs;
  });

  const wantedMs = (one: Timed): number => Math.max(neededMs(one), rules.minDurationMs) - (one.endMs - one.startMs);
  const needy = timed
    .map((one, at) => ({ one, at, lack: wantedMs(one) }))
    .filter(({ one, lack }) => lack > 0 && isFree(one))
    .sort((a, b) => b.lack - a.lack || a.at - b.at);
  for (const { one, at } of needy) {
    const longest = Math.max(one.endMs - one.startMs, rules.maxDurationMs);
    const later = Math.min(wantedMs(one), all.endLaterMs, mostEnd(at) - one.endMs, longest - (one.endMs - one.startMs));
    one.endMs += Math.max(0, later);
    const room = Math.min(
      wantedMs(one),
      all.startEarlierMs,
      one.startMs - leastStart(at),
      longest - (one.endMs - one.startMs)
    );
    one.startMs -= Math.max(0, room);
  }

  let closed = 0;
  timed.forEach((one, at) => {
    const next = timed[at + 1];
    if (next === undefined || !isFree(one)) return;
    const gapMs = next.startMs - one.endMs;
    const endMs = next.startMs - rules.minGapMs;
    if (gapMs <= rules.minGapMs || gapMs >= all.closeGapsBelowMs) return;
    if (endMs - one.startMs > Math.max(rules.maxDurationMs, one.endMs - one.startMs)) return;
    one.endMs = endMs;
    closed++;
  });

  return {
    times: timed
      .filter(({ cue, startMs, endMs }) => startMs !== cue.startMs || endMs !== cue.endMs)
      .map(({ cue, startMs, endMs }) => ({ cueId: cue.id, ...toSpan({ startMs, endMs }) })),
    tooFastBefore,
    tooFastAfter: timed.filter((one) => lackMs(one) > 0).length,
    closed,
    snapped
  };
}

/** The nearest place for an edge within reach; a shot change goes before speech. */
function snapTo(ms: number, { speech, shotsMs }: EaseContext, options: EaseOptions, edge: 'start' | 'end'): number {
  const shot = nearest(shotsMs, ms);
  if (shot !== null && Math.abs(shot - ms) <= options.shotReachMs) return shot;
  const at = lastStartingBy(speech, ms);
  const edges = [speech[at - 1], speech[at], speech[at + 1]].flatMap((region) =>
    region === undefined ? [] : [edge === 'start' ? region.startMs : region.endMs]
  );
  const place = nearest(edges, ms);
  return place !== null && Math.abs(place - ms) <= options.speechReachMs ? Math.round(place) : ms;
}

function nearest(places: readonly number[], ms: number): number | null {
  let best: number | null = null;
  for (const place of places) if (best === null || Math.abs(place - ms) < Math.abs(best - ms)) best = place;
  return best;
}
