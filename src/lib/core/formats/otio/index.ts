/** OpenTimelineIO: the recording with a marker for each cue, and the cues as clips on a track of their own. */
import { cueSpeaker, type Track } from '../../track';
import type { WriteOptions } from '../options';
import { countedCues, pictureCount, type CountedCue } from '../pictures';
import * as otio from './schema';

export { otio };

export function formatOtio(track: Track, options: WriteOptions): string {
  const count = pictureCount(options);
  const { rate, from } = count;
  const cues = countedCues(track, count);
  const names = new Map(track.speakers.map(({ id, name }) => [id, name]));
  const length = Math.max(1, Math.round((options.durationMs * rate) / 1000), ...cues.map(({ end }) => end));
  const available = otio.range(from, length, rate);
  const nameOf = ({ lines }: CountedCue): string => lines.join(' ');
  const metadataOf = ({ cue, lines }: CountedCue): object => {
    const speakerId = options.speakers ? cueSpeaker(track, cue) : null;
    const speaker = speakerId === null ? undefined : names.get(speakerId);
    return { caption: { language: track.language, lines, ...(speaker !== undefined && { speaker }) } };
  };
  const markers = cues.map((one) =>
    otio.marker(nameOf(one), otio.range(from + one.start, one.end - one.start, rate), metadataOf(one))
  );
  const picture = otio.clip({
    ...{ name: options.title, source: available, medium: { name: options.title, available }, markers }
  });
  const captions = lanesOf(cues).map((lane, at) => {
    const children: otio.Item[] = [];
    let end = 0;
    for (const one of lane) {
      if (one.start > end) children.push(otio.gap(one.start - end, rate));
      const source = otio.range(from + one.start, one.end - one.start, rate);
      children.push(otio.clip({ name: nameOf(one), source, medium: null, metadata: metadataOf(one) }));
      end = one.end;
    }
    return otio.track(at === 0 ? 'Captions' : `Captions ${at + 1}`, 'Video', children);
  });
  const tracks = [otio.track('Recording', 'Video', [picture]), ...captions];
  return `${JSON.stringify(otio.timeline(options.title, { pictures: from, rate }, tracks), null, 2)}\n`;
}

/** Cues that overlap stand on tracks above each other. */
function lanesOf(cues: readonly CountedCue[]): readonly (readonly CountedCue[])[] {
  const lanes: CountedCue[][] = [];
  for (const one of cues) {
    const free = lanes.find((lane) => lane.at(-1)!.end <= one.start);
    if (free === undefined) lanes.push([one]);
    else free.push(one);
  }
  return lanes;
}
