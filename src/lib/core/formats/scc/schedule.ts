/** When each cue is loaded, shown and put away: one pair of bytes goes with each picture, so that loading takes time. */
import { shownWordsOfAll, type Track } from '../../track';
import type { PictureCount } from '../pictures';
import { control, encodeRow, type Unit } from './encode';
import { layOutCue, type LaidCue } from './lay-out';

/** What stands behind a time code: pairs, from a picture on. */
export interface Line {
  readonly picture: number;
  readonly words: readonly number[];
}
export interface Shown {
  readonly laid: LaidCue;
  /** Counted in pictures, from time code zero. */
  readonly start: number;
  /** Where it is to be shown; `start` is later where there was no time to load it. */
  readonly wanted: number;
  /** The next one is shown before it should go. */
  readonly isCut: boolean;
}
export interface Schedule {
  readonly lines: readonly Line[];
  readonly shown: readonly Shown[];
}

export function schedule(track: Track, { from, rate }: Pick<PictureCount, 'from' | 'rate'>): Schedule {
  const pictureOf = (ms: number): number => Math.max(0, from + Math.round((ms * rate) / 1000));
  const words = shownWordsOfAll(track);
  const erase = control('eraseShown');
  const lines: Line[] = [];
  const shown: Shown[] = [];
  /** The first picture with which nothing goes yet. */
  let free = 0;
  /** Where what is shown is to be put away; `null` where nothing is, or the next cue does it. */
  let eraseAt: number | null = null;
  track.cues.forEach((cue, at) => {
    const laid = layOutCue(track, cue, words[at]!);
    const units = [control('load'), control('eraseLoaded'), ...laid.rows.flatMap(encodeRow)];
    const length = units.reduce((sum, unit) => sum + unit.length, 0);
    const wanted = pictureOf(cue.startMs);
    let first = Math.max(free, wanted - length);
    if (eraseAt !== null && Math.max(eraseAt, free) + erase.length <= first + length) {
      const erased = Math.max(eraseAt, free);
      if (erased + erase.length <= first) lines.push({ picture: erased, words: erase });
      else {
        // It goes with the load, at its picture.
        first = Math.max(free, wanted - length - erase.length);
        units.splice(unitAt(units, erased - first), 0, erase);
      }
    }
    const load: number[] = [];
    for (const unit of units) for (const word of unit) load.push(word);
    lines.push({ picture: first, words: load });
    const start = Math.max(wanted, first + load.length);
    lines.push({ picture: start, words: control('show') });
    free = start + control('show').length;
    const next = track.cues[at + 1];
    const isCut = next !== undefined && next.startMs < cue.endMs;
    eraseAt = isCut ? null : Math.max(free, pictureOf(cue.endMs));
    shown.push({ laid, start, wanted, isCut });
  });
  if (eraseAt !== null) lines.push({ picture: eraseAt, words: erase });
  return { lines, shown };
}

/** Index of the unit that begins so many words in, or next behind. */
function unitAt(units: readonly Unit[], wordsIn: number): number {
  let at = 0;
  for (let passed = 0; at < units.length && passed < wordsIn; at++) passed += units[at]!.length;
  return at;
}
