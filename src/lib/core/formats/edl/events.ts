/** An edit decision list as editing programs have exchanged it since SMPTE 258M: one event a line, comments below it. */
import { withoutControls } from '../caption-file';
import { timecodeOf, type PictureCount } from '../pictures';

/** Programs of the time read three digits. */
export const MOST_EVENTS = 999;

/** What an event cuts: picture, one sound, two, or both together. */
export type Channels = 'V' | 'A' | 'AA' | 'B' | 'AA/V';

export interface EditEvent {
  /** What the medium is called there: eight letters and digits; `BL` is black. */
  readonly reel: string;
  readonly channels: Channels;
  /** In pictures from zero; ends lie behind the last one. */
  readonly source: readonly [number, number];
  readonly record: readonly [number, number];
  readonly comments: readonly string[];
}

const MOST_REEL = 8;
export const reelOf = (title: string): string =>
  title
    .normalize('NFKD')
    .toUpperCase()
    .replaceAll(/[^A-Z0-9]/g, '')
    .slice(0, MOST_REEL) || 'REEL';

/** Lines end in CR LF. */
export function formatEvents(title: string, events: readonly EditEvent[], count: PictureCount): string {
  const plain = withoutControls(title).trim() || 'Untitled';
  const head = [`TITLE: ${plain}`, `FCM: ${count.isDropFrame ? 'DROP FRAME' : 'NON-DROP FRAME'}`, ''];
  const lines = events.flatMap(({ reel, channels, source, record, comments }, at) => [
    [
      `${String(at + 1).padStart(3, '0')}  ${reel.padEnd(MOST_REEL)} ${channels.padEnd(5)} C        `,
      [...source, ...record].map((pictures) => timecodeOf(pictures, count)).join(' ')
    ].join(''),
    ...comments.map((comment) => `* ${withoutControls(comment)}`)
  ]);
  return `${[...head, ...lines].join('\r\n')}\r\n`;
}
