/** Captions as a container holds them: a file of text that ffmpeg puts into it, and what it is marked as. */
import { formatSrtCues, formatWebVtt, srtCues, type SrtCue } from '../formats';
import { inThreeLetters } from '../naming';
import { toSpan } from '../time';
import { primarySubtag, type Track } from '../track';
import type { CaptionMarks, Container } from './request';

export interface CaptionsInside {
  readonly content: string;
  readonly format: 'srt' | 'webvtt';
  /** By ffmpeg's name. */
  readonly codec: 'mov_text' | 'subrip' | 'webvtt';
  /** ISO 639-2, three letters. */
  readonly language: string;
  readonly title: string;
  readonly isDefault: boolean;
  readonly isForced: boolean;
  readonly isForHearingImpaired: boolean;
}

/** `titleOf`: what players list a track as. The first one is shown by itself where nothing is said. */
export function captionsInside(
  tracks: readonly Track[],
  container: Container,
  marks: CaptionMarks,
  titleOf: (track: Track) => string
): readonly CaptionsInside[] {
  const { defaultTrackId = tracks[0]?.id ?? null, forcedTrackIds = [] } = marks;
  const isImpaired = ({ id, kind }: Track): boolean =>
    marks.hearingImpairedTrackIds?.includes(id) ?? kind === 'captions';
  return tracks.map((track) => ({
    ...written(track, container),
    language: languageOf(track.language),
    title: titleOf(track),
    isDefault: track.id === defaultTrackId,
    isForced: forcedTrackIds.includes(track.id),
    isForHearingImpaired: isImpaired(track)
  }));
}

function written(track: Track, container: Container): Pick<CaptionsInside, 'content' | 'format' | 'codec'> {
  if (container === 'webm') return { content: bareWebVtt(track), format: 'webvtt', codec: 'webvtt' };
  if (container === 'mkv') return { content: formatSrtCues(srtCues(track)), format: 'srt', codec: 'subrip' };
  return { content: formatSrtCues(flatten(srtCues(track))), format: 'srt', codec: 'mov_text' };
}

/** ffmpeg 5 stops reading at a block that is no cue, and says nothing. */
const bareWebVtt = (track: Track): string =>
  formatWebVtt({ ...track, carried: null })
    .split(/\n\n+/)
    .filter((block) => !/^(?:STYLE|REGION)\b/.test(block))
    .join('\n\n');

/** One sample stands at a time in a container of samples: where cues overlap, one says what all of them say. */
export function flatten(cues: readonly SrtCue[]): readonly SrtCue[] {
  const edges = [...new Set(cues.flatMap(({ startMs, endMs }) => [startMs, endMs]))].sort((a, b) => a - b);
  const flat: SrtCue[] = [];
  let next = 0;
  let open: SrtCue[] = [];
  edges.slice(0, -1).forEach((startMs, at) => {
    while (next < cues.length && cues[next]!.startMs <= startMs) open.push(cues[next++]!);
    open = open.filter(({ endMs }) => endMs > startMs);
    if (open.length === 0) return;
    flat.push({ ...toSpan({ startMs, endMs: edges[at + 1]! }), lines: open.flatMap(({ lines }) => lines) });
  });
  return flat;
}

/** Undetermined where it has no three letters. */
function languageOf(tag: string): string {
  const three = inThreeLetters(primarySubtag(tag));
  return /^[a-z]{3}$/.test(three) ? three : 'und';
}
