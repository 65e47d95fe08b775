/** What line 21 captions cannot say of a track, besides its look. */
import { plural } from '../../plural';
import type { Track } from '../../track';
import type { WriteOptions } from '../options';
import { lettersNotCarried, type Remark } from '../remarks';
import { countOf, RATE } from './format';
import { schedule } from './schedule';

/** Receivers show so many at once. */
const MOST_ROWS = 4;
/** Sooner nobody sees it. */
const LATE_PICTURES = 3;

export function cannotSayScc(track: Track, options: WriteOptions): readonly Remark[] {
  const { shown } = schedule(track, countOf(options));
  const cuesWhere = (holds: (one: (typeof shown)[number]) => boolean) =>
    track.cues.filter((_, at) => holds(shown[at]!)).map(({ id }) => id);
  const lacking = new Set(shown.flatMap(({ laid }) => laid.lacking));
  const broken = cuesWhere(({ laid }) => laid.isBroken);
  const high = cuesWhere(({ laid }) => laid.rows.length > MOST_ROWS);
  const cut = cuesWhere(({ isCut }) => isCut);
  const late = cuesWhere(({ start, wanted }) => start - wanted >= LATE_PICTURES);
  const mostLate = Math.max(0, ...shown.map(({ start, wanted }) => start - wanted)) / RATE;
  const remarks: readonly (Remark | false)[] = [
    lacking.size > 0 && lettersNotCarried('SCC', [...lacking]),
    track.words.some(({ marks }) => marks.some(({ kind }) => kind === 'b')) && {
      code: 'marks_not_carried',
      message: 'SCC does not carry bold letters.'
    },
    broken.length > 0 && {
      code: 'lines_broken',
      message: `Rows of SCC have 32 columns: ${plural(broken.length, 'cue')} with longer lines are broken anew. Italics cost a column where they begin a line.`,
      cueIds: broken
    },
    high.length > 0 && {
      code: 'too_many_rows',
      message: `${plural(high.length, 'cue')} of more than ${MOST_ROWS} rows: not every receiver shows them.`,
      cueIds: high
    },
    cut.length > 0 && {
      code: 'overlaps_cut',
      message: `SCC shows one cue at a time: ${plural(cut.length, 'cue')} end where the next begins.`,
      cueIds: cut
    },
    late.length > 0 && {
      code: 'cues_late',
      message: `${plural(late.length, 'cue')} come up to ${mostLate.toFixed(1)} s late: there is no time to send them before.`,
      cueIds: late
    },
    { code: 'times_rounded', message: 'Times are whole pictures of 29.97 a second.' }
  ];
  return remarks.filter((remark) => remark !== false);
}
