/** What EBU STL cannot say of a track, besides its look. */
import { clustersOf, type Track } from '../../track';
import type { WriteOptions } from '../options';
import { lettersNotCarried, type Remark } from '../remarks';
import { stlRate, tableFor } from './format';

export function cannotSayStl(track: Track, options: WriteOptions): readonly Remark[] {
  const table = tableFor(track);
  const lacking = new Set<string>();
  for (const { text, shown } of track.words)
    if (shown) for (const { segment } of clustersOf(text)) if (table.encode(segment) === null) lacking.add(segment);
  const isBold = track.words.some(({ marks }) => marks.some(({ kind }) => kind === 'b'));
  const lastMs = track.cues.at(-1)?.endMs ?? 0;
  const remarks: readonly (Remark | false)[] = [
    lacking.size > 0 && lettersNotCarried('STL', [...lacking]),
    isBold && { code: 'marks_not_carried', message: 'STL does not carry bold letters.' },
    lastMs > 24 * 3_600_000 && {
      code: 'times_not_carried',
      message: 'STL counts a day at most: later times begin anew.'
    },
    {
      code: 'times_rounded',
      message: `Times are whole pictures of ${stlRate(options)} a second.`
    }
  ];
  return remarks.filter((remark) => remark !== false);
}
