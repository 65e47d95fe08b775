import type { Track } from '../../track';
import { FRAME_RATES, type WriteOptions } from '../options';
import { pictureCount, timecodeOf, type PictureCount } from '../pictures';
import { schedule } from './schedule';

/** Line 21 knows one rate. */
export const RATE = FRAME_RATES['29.97'];
export const HEADER = 'Scenarist_SCC V1.0';

export const countOf = ({
  startTimecode,
  dropFrame
}: Pick<WriteOptions, 'startTimecode' | 'dropFrame'>): PictureCount =>
  pictureCount({ frameRate: '29.97', dropFrame, startTimecode });

const hexes: string[] = [];
const hexOf = (word: number): string => (hexes[word] ??= word.toString(16).padStart(4, '0'));

/** Cues that pop on, each loaded before it is shown. */
export function formatScc(track: Track, options: WriteOptions): string {
  const count = countOf(options);
  const written = schedule(track, count).lines.map(
    ({ picture, words }) => `${timecodeOf(picture, count)}\t${words.map(hexOf).join(' ')}\n\n`
  );
  return `${HEADER}\n\n${written.join('')}`;
}
