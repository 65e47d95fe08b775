/** EDL: an event for each cue, its text in comments. */
import { plural } from '../../plural';
import type { Track } from '../../track';
import type { WriteOptions } from '../options';
import { countedCues, pictureCount, type CountedCue } from '../pictures';
import type { Remark } from '../remarks';
import { formatEvents, MOST_EVENTS, reelOf, type EditEvent } from './events';

export { formatEvents, MOST_EVENTS, reelOf, type Channels, type EditEvent } from './events';

export function formatEdl(track: Track, options: WriteOptions): string {
  const count = pictureCount(options);
  const reel = reelOf(options.title);
  const cues = countedCues(track, count);
  const events = cues.map((one, at): EditEvent => {
    const edges = [count.from + one.start, count.from + endOf(one, cues[at + 1])] as const;
    return {
      ...{ reel, channels: 'V', source: edges, record: edges },
      comments: [`FROM CLIP NAME: ${options.title}`, ...one.lines.map((line) => `COMMENT: ${line}`)]
    };
  });
  return formatEvents(options.title, events, count);
}

/** One event stands at a time. */
const endOf = ({ start, end }: CountedCue, next: CountedCue | undefined): number =>
  next === undefined ? end : Math.max(start + 1, Math.min(end, next.start));

export function cannotSayEdl(track: Track, options: WriteOptions): readonly Remark[] {
  const cues = countedCues(track, pictureCount(options));
  const cut = cues.filter((one, at) => endOf(one, cues[at + 1]) < one.end).map(({ cue }) => cue.id);
  const remarks: readonly (Remark | false)[] = [
    cues.length > MOST_EVENTS && {
      code: 'too_many_events',
      message: `Older programs stop at event ${MOST_EVENTS}; this list has ${cues.length}.`
    },
    cut.length > 0 && {
      code: 'overlaps_cut',
      message: `An EDL has one event at a time: ${plural(cut.length, 'cue')} end where the next begins.`,
      cueIds: cut
    },
    { code: 'times_rounded', message: `Times are whole pictures of ${options.frameRate} a second.` }
  ];
  return remarks.filter((remark) => remark !== false);
}
