/** Times of the product: whole milliseconds from the start of the media. */
import { wholeMs, type Ms } from './ms';

export { canDropFrames, formatFrames, formatTimecode, parseFrames, parseTimecode } from './frames';
export { MOST_MS, msSchema, wholeMs, type Ms } from './ms';

/** A stretch of time. `startMs <= t < endMs`; `startMs < endMs`. */
export interface Span {
  readonly startMs: Ms;
  readonly endMs: Ms;
}

/** The same as it is reckoned: of fractions, too. */
export interface ReckonedSpan {
  readonly startMs: number;
  readonly endMs: number;
}

/** What has been reckoned, in whole milliseconds. */
export const toSpan = ({ startMs, endMs }: ReckonedSpan): Span => ({
  startMs: wholeMs(startMs),
  endMs: wholeMs(endMs)
});

export const msFromSeconds = (seconds: number): Ms => wholeMs(seconds * 1000);

/** Within the bounds; where they cross, the upper one counts. */
export function clamp<T extends number>(value: T, least: T, most: T): T {
  const raised = value < least ? least : value;
  return raised > most ? most : raised;
}

const pad = (value: number, digits: number): string => String(value).padStart(digits, '0');

/** `1:02:03.450`, `2:03.45`: hours only where there are any. `digits` of the second: 0 to 3, not rounded up. */
export function formatClock(milliseconds: number, digits: 0 | 1 | 2 | 3 = 0): string {
  const whole = Math.max(0, Math.floor(milliseconds));
  const hours = Math.floor(whole / 3_600_000);
  const minutes = Math.floor(whole / 60_000) % 60;
  const seconds = Math.floor(whole / 1000) % 60;
  const head = hours > 0 ? `${hours}:${pad(minutes, 2)}` : `${minutes}`;
  const fraction = digits === 0 ? '' : `.${pad(whole % 1000, 3).slice(0, digits)}`;
  return `${head}:${pad(seconds, 2)}${fraction}`;
}

const CLOCK = /^(?:(?:(\d{1,3}):)?(\d{1,3}):)?(\d{1,5})(?:[.,](\d{1,3}))?$/;

/** Reads what people type for a time: `1:02:03.45`, `2:03,450`, `63.5`. `null` where it is none. */
export function parseClock(text: string): Ms | null {
  const found = CLOCK.exec(text.trim());
  if (found === null) return null;
  const [, hours = '0', minutes = '0', seconds = '0', fraction = ''] = found;
  if (found[1] !== undefined && Number(minutes) > 59) return null;
  if (found[2] !== undefined && Number(seconds) > 59) return null;
  return wholeMs(
    ((Number(hours) * 60 + Number(minutes)) * 60 + Number(seconds)) * 1000 + Number(fraction.padEnd(3, '0'))
  );
}

/** Time two spans share, in ms; 0 where they only touch. */
export const overlapMs = (a: ReckonedSpan, b: ReckonedSpan): number =>
  Math.max(0, Math.min(a.endMs, b.endMs) - Math.max(a.startMs, b.startMs));

/** From the first start to the last end; of one item at least. */
export const spanOf = (items: readonly Span[]): Span => ({
  startMs: wholeMs(Math.min(...items.map((item) => item.startMs))),
  endMs: wholeMs(Math.max(...items.map((item) => item.endMs)))
});

/** Index of the last item whose `startMs` is at most `ms`; -1 where there is none. Items stand in order of start. */
export function lastStartingBy(items: readonly { readonly startMs: number }[], milliseconds: number): number {
  let low = 0;
  let high = items.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (items[middle]!.startMs <= milliseconds) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
