/** Where an edge in hand catches: at a word's or speech's edge, a shot change, or the least gap to a neighbour. */
import { lastStartingBy, type Ms, wholeMs, type Span } from '../time';
import type { Cue, Word } from '../track';

export interface Snap {
  readonly ms: Ms;
  readonly kind: 'word' | 'speech' | 'shot' | 'neighbour';
}

export interface SnapContext {
  /** How far an edge is caught from. */
  readonly reachMs: number;
  /** In order of start, as the regions of speech, the shots and the cues are. */
  readonly words: readonly Word[];
  readonly regions: readonly Span[];
  readonly shotsMs: readonly Ms[];
  readonly cues: readonly Cue[];
  readonly minGapMs: number;
  /** Cues that are in hand themselves. */
  readonly but: ReadonlySet<string>;
}

/** Words and cues begin at most so long before their other edge can be near. */
const LOOK_BACK_MS = 10_000;

/** The nearest place within reach; of two as near, a shot change goes before a neighbour, that before speech and words. */
export function findSnap(ms: Ms, context: SnapContext): Snap | null {
  const { reachMs, words, regions, shotsMs, cues, minGapMs, but } = context;
  let best: Snap | null = null;
  const offer = (at: Ms, kind: Snap['kind']): void => {
    const off = Math.abs(at - ms);
    if (off <= reachMs && (best === null || off < Math.abs(best.ms - ms))) best = { ms: at, kind };
  };
  const near = <T extends { readonly startMs: Ms }>(items: readonly T[], visit: (item: T) => void): void => {
    for (let at = lastStartingBy(items, ms + reachMs + minGapMs); at >= 0; at--) {
      if (items[at]!.startMs < ms - LOOK_BACK_MS) break;
      visit(items[at]!);
    }
  };
  for (const shot of shotsMs) offer(shot, 'shot');
  near(cues, (cue) => {
    if (but.has(cue.id)) return;
    offer(wholeMs(cue.endMs + minGapMs), 'neighbour');
    offer(wholeMs(cue.startMs - minGapMs), 'neighbour');
  });
  near(regions, (region) => {
    offer(region.startMs, 'speech');
    offer(region.endMs, 'speech');
  });
  near(words, (word) => {
    offer(word.startMs, 'word');
    offer(word.endMs, 'word');
  });
  return best;
}
