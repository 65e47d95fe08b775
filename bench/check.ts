/** Checks of a track of two hours: all of them, anew after one edit, and whether planted faults are found. */
import { Checker, checkTrack, knowOnly, mend, type Finding, type Knowledge } from '../src/lib/core/checks';
import { toSpan, wholeMs } from '../src/lib/core/time';
import type { Cue, Sheet, Track, Word } from '../src/lib/core/track';
import { trackOf } from './core';
import { at95, median } from './figures';
import { makeTalk } from './material';
import type { Row } from './table';

const WORDS = 18_000;
/** Every so many cues one has a fault. */
const APART = 12;

interface Parts {
  readonly cue: Cue;
  readonly words: readonly Word[];
}

/** Faults by the check that must find them, made in one cue. */
const PLANTS: Readonly<Record<string, (parts: Parts) => Partial<Parts>>> = {
  doubled_word: ({ words }) => ({
    words: words.map((word, at) => (at === 1 || at === 2 ? { ...word, text: 'clock' } : word))
  }),
  unseen: ({ words }) => ({
    words: words.map((word, at) => (at === 1 ? { ...word, text: `${word.text}\u200b` } : word))
  }),
  markup_left: ({ words }) => ({
    words: words.map((word, at) => (at === 0 ? { ...word, text: `<u>${word.text}` } : word))
  }),
  broken_sign: ({ words }) => ({
    words: words.map((word, at) => (at === 1 ? { ...word, text: `${word.text}\ufffd` } : word))
  }),
  open_bracket: ({ words }) => ({
    words: words.map((word, at) => (at === 1 ? { ...word, text: `[${word.text}` } : word))
  }),
  min_duration: ({ cue }) => ({ cue: { ...cue, endMs: wholeMs(cue.startMs + 400) } }),
  late_start: ({ cue }) => ({ cue: { ...cue, startMs: wholeMs(cue.startMs + 450) } }),
  outside: ({ cue }) => ({ cue: { ...cue, placement: { xPercent: 50, yPercent: 1 } } })
};

const placeOf = ({ rule, cueId }: Pick<Finding, 'rule' | 'cueId'>): string => `${rule} ${cueId}`;

function plant(track: Track): { readonly track: Track; readonly expected: ReadonlySet<string> } {
  const words = [...track.words];
  const cues = [...track.cues];
  const expected = new Set<string>();
  const kinds = Object.entries(PLANTS);
  let from = 0;
  track.cues.forEach((cue, at) => {
    const own = words.slice(from, from + cue.wordIds.length);
    if (at % APART === APART / 2 && own.length > 3) {
      const [rule, make] = kinds[Math.floor(at / APART) % kinds.length]!;
      const made = make({ cue, words: own });
      if (made.words !== undefined) words.splice(from, own.length, ...made.words);
      if (made.cue !== undefined) cues[at] = made.cue;
      expected.add(placeOf({ rule, cueId: cue.id }));
    }
    from += cue.wordIds.length;
  });
  return { track: { ...track, words, cues }, expected };
}

const timed = (work: () => void): number => {
  const from = performance.now();
  work();
  return performance.now() - from;
};

const SHEET: Sheet = {};

export function checkRows(): Row[] {
  const track = trackOf(makeTalk(WORDS));
  const endMs = track.cues.at(-1)!.endMs;
  const knowledge: Knowledge = {
    ...knowOnly(endMs + 5000),
    speech: track.cues.map(toSpan),
    shotsMs: Array.from({ length: 900 }, (_, at) => at * 8000),
    sounds: []
  };
  const all = Array.from({ length: 7 }, () => timed(() => void checkTrack(track, knowledge, SHEET)));
  const checker = new Checker();
  checker.check(track, knowledge, SHEET);
  const anew = Array.from({ length: 40 }, (_, at) => {
    const place = (at * 397) % track.words.length;
    const words = track.words.with(place, { ...track.words[place]!, text: `again${at}` });
    return timed(() => void checker.check({ ...track, words }, knowledge, SHEET));
  });
  const planted = plant(track);
  const usual = new Set(checkTrack(track, knowledge, SHEET).findings.map(placeOf));
  const { findings } = checkTrack(planted.track, knowledge, SHEET);
  const found = new Set(findings.map(placeOf));
  const missed = [...planted.expected].filter((place) => !found.has(place));
  // A fault has its own consequences: what is too short reads too fast, and leaves speech uncovered. Other cues must not.
  const faulty = new Set([...planted.expected].map((place) => place.split(' ')[1]));
  const others = findings.filter((one) => one.cueId !== null && !faulty.has(one.cueId) && !usual.has(placeOf(one)));
  let minted = 0;
  const kind = findings.filter(({ rule }) => rule === 'min_duration');
  const mending = timed(
    () => void mend(planted.track, kind, { knowledge, sheet: SHEET, mint: () => `n${minted++}`, atMs: 0 })
  );
  return [
    { what: `all checks of ${track.cues.length} cues`, value: median(all), unit: 'ms', budget: 1000 },
    { what: 'anew after one edit: median', value: median(anew), unit: 'ms', budget: 30 },
    { what: 'anew after one edit: 95th percentile', value: at95(anew), unit: 'ms', budget: 30 },
    { what: `planted faults (${planted.expected.size}) that are not found`, value: missed.length, unit: '', budget: 0 },
    {
      what: 'findings on other cues that were not there before, for each planted',
      value: (others.length / planted.expected.size) * 100,
      unit: '%',
      budget: 2
    },
    { what: `${kind.length} findings of a kind tried and mended`, value: mending, unit: 'ms' }
  ];
}
