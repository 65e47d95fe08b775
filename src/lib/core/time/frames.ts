/**
 * Times as pictures are counted: hours, minutes, seconds and frames (SMPTE ST 12-1:2014). At 29.97 and 59.94 pictures a
 * second the count drops numbers, not pictures, so that it keeps to the clock (section 5.2.2, drop-frame).
 */
import { wholeMs, type Ms } from './ms';

/** Whether numbers can be dropped at this rate: the count of whole numbers would fall behind the clock. */
export const canDropFrames = (rate: number): boolean =>
  Math.abs(rate - 30_000 / 1001) < 0.01 || Math.abs(rate - 60_000 / 1001) < 0.01;

/** Numbers that are dropped at each minute but every tenth. */
const dropped = (rate: number): number => Math.round(rate) / 15;

const two = (value: number): string => String(value).padStart(2, '0');

/** A count of pictures as a time code, `1:02:03:04`; a semicolon before the frames says that numbers are dropped. */
export function formatTimecode(pictures: number, rate: number, isDropFrame: boolean): string {
  const perSecond = Math.round(rate);
  let count = pictures;
  if (isDropFrame) {
    const drop = dropped(rate);
    const perMinute = perSecond * 60 - drop;
    const perTenMinutes = perMinute * 10 + drop;
    const tens = Math.floor(count / perTenMinutes);
    const minutes = Math.max(0, Math.floor(((count % perTenMinutes) - drop) / perMinute));
    count += drop * (9 * tens + minutes);
  }
  const seconds = Math.floor(count / perSecond);
  const clock = `${Math.floor(seconds / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
  return `${clock}${isDropFrame ? ';' : ':'}${two(count % perSecond)}`;
}

const FRAMES = /^(?:(?:(\d{1,3}):)?(\d{1,2}):)?(\d{1,2})[:;](\d{1,3})$/;

/** Pictures before `1:02:03:04`, `2:03:04` or `3:04`; `null` where it is no time code, or one that is dropped. */
export function parseTimecode(text: string, rate: number, isDropFrame: boolean): number | null {
  const found = FRAMES.exec(text.trim());
  if (found === null) return null;
  const [hours, minutes, seconds, frames] = found.slice(1).map((part) => Number(part ?? 0)) as [
    number,
    number,
    number,
    number
  ];
  const perSecond = Math.round(rate);
  if (minutes > 59 || seconds > 59 || frames >= perSecond) return null;
  const drop = isDropFrame ? dropped(rate) : 0;
  const inMinutes = hours * 60 + minutes;
  if (seconds === 0 && frames < drop && minutes % 10 !== 0) return null;
  return (inMinutes * 60 + seconds) * perSecond + frames - drop * (inMinutes - Math.floor(inMinutes / 10));
}

/** The picture that is shown at a time. Times are whole milliseconds: half of one too early is still the same picture. */
const pictureAt = (milliseconds: number, rate: number): number =>
  Math.floor(((Math.max(0, milliseconds) + 0.5) * rate) / 1000 + 1e-9);

/** `0:01:02:03`; numbers are dropped where they can be. `rate`: pictures a second. */
export const formatFrames = (milliseconds: number, rate: number): string =>
  formatTimecode(pictureAt(milliseconds, rate), rate, canDropFrames(rate));

/** The time at which the picture of `1:02:03:04`, `2:03:04` or `3:04` begins. `null` where there is no such one. */
export function parseFrames(text: string, rate: number): Ms | null {
  const count = parseTimecode(text, rate, canDropFrames(rate));
  return count === null ? null : wholeMs((count * 1000) / rate);
}
