/** Cues as pictures are counted: what editing programs and cut lists take. */
import { canDropFrames, formatTimecode, parseTimecode } from '../time';
import { plainLines, type Cue, type Track } from '../track';
import { FRAME_RATES, type WriteOptions } from './options';

export interface PictureCount {
  /** Pictures a second. */
  readonly rate: number;
  readonly isDropFrame: boolean;
  /** Pictures before the recording's first one. */
  readonly from: number;
}

/** As the options say it; numbers are dropped only at rates that have it. */
export function pictureCount({
  frameRate,
  dropFrame,
  startTimecode
}: Pick<WriteOptions, 'frameRate' | 'dropFrame' | 'startTimecode'>): PictureCount {
  const rate = FRAME_RATES[frameRate];
  const isDropFrame = dropFrame && canDropFrames(rate);
  // A number that is dropped, or that the rate has not, is the next one there is.
  const from =
    parseTimecode(startTimecode, rate, isDropFrame) ??
    parseTimecode(startTimecode.replace(/\d+$/, isDropFrame ? '04' : '00'), rate, isDropFrame) ??
    0;
  return { rate, isDropFrame, from };
}

/** Of a count from zero. */
export const timecodeOf = (pictures: number, { rate, isDropFrame }: PictureCount): string =>
  formatTimecode(pictures, rate, isDropFrame).padStart('00:00:00:00'.length, '0');

export interface CountedCue {
  readonly cue: Cue;
  readonly lines: readonly string[];
  /** From the recording's first picture; edges are rounded, lengths are what lies between them. One picture at least. */
  readonly start: number;
  readonly end: number;
}

export const countedCues = (track: Track, { rate }: PictureCount): readonly CountedCue[] =>
  track.cues.map((cue) => {
    const [start, end] = [cue.startMs, cue.endMs].map((ms) => Math.round((ms * rate) / 1000)) as [number, number];
    return { cue, lines: plainLines(track, cue), start, end: Math.max(start + 1, end) };
  });
