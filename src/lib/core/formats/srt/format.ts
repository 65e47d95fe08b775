/** Writes SubRip text. */
import type { Span } from '../../time';
import { formatMarkedLine, shownWordsOfAll, signedLines, type Track, type Word } from '../../track';
import { formatTiming, hasVisible, plainLine, withoutControls } from '../caption-file';

/** A cue as the file says it. */
export interface SrtCue extends Span {
  readonly lines: readonly string[];
}

export function srtCues(track: Track): readonly SrtCue[] {
  const words = shownWordsOfAll(track);
  return track.cues.map((cue, at) => ({
    startMs: cue.startMs,
    endMs: cue.endMs,
    lines: signedLines(track, cue, words[at]!).flatMap((line) => plainLine(line) ?? srtLine(line) ?? [])
  }));
}

export const formatSrt = (track: Track): string => formatSrtCues(srtCues(track));

export function formatSrtCues(cues: readonly SrtCue[]): string {
  const lines: string[] = [];
  cues.forEach((cue, at) => {
    lines.push(String(at + 1), formatTiming(cue, ','), ...cue.lines);
    // A cue without text keeps its place and time: readers drop one that has no line at all.
    if (cue.lines.length === 0) lines.push('\u00a0');
    lines.push('');
  });
  return lines.join('\n');
}

/** `null` for nothing to see. The format has no escapes: a space keeps text from being read as a tag, a code or a timing. */
function srtLine(words: readonly Word[]): string | null {
  const markup = formatMarkedLine(words);
  if (!hasVisible(markup)) return null;
  return withoutControls(markup)
    .split(/(<\/?[ibu]>)/)
    .map((part, at) => (at % 2 === 1 ? part : srtText(part)))
    .join('');
}

const srtText = (escaped: string): string =>
  escaped
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&amp;', '&')
    .replaceAll('-->', '-- >')
    .replace(/<(?=\/?[a-z\d])/gi, '< ')
    .replace(/\{(?=\\)/g, '{ ');
