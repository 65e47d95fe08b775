/** Writes SubRip text. */
import type { Span } from '../../time';
import { formatMarkedLine, shownWordsOfAll, signedLines, type Cue, type Track, type Word } from '../../track';
import { formatTiming, hasVisible, plainLine, withoutControls } from '../caption-file';

/** A cue as the file says it. */
export interface SrtCue extends Span {
  readonly lines: readonly string[];
}

export const srtCues = (track: Track): readonly SrtCue[] => {
  const words = shownWordsOfAll(track);
  return track.cues.map((cue, at) => ({
    startMs: cue.startMs,
    endMs: cue.endMs,
    lines: linesOf(track, cue, words[at]!)
  }));
};

export function formatSrt(track: Track): string {
  const words = shownWordsOfAll(track);
  const lines: string[] = [];
  track.cues.forEach((cue, at) => addCue(lines, at, cue, linesOf(track, cue, words[at]!)));
  return lines.join('\n');
}

export function formatSrtCues(cues: readonly SrtCue[]): string {
  const lines: string[] = [];
  cues.forEach((cue, at) => addCue(lines, at, cue, cue.lines));
  return lines.join('\n');
}

function linesOf(track: Track, cue: Cue, words: readonly Word[]): readonly string[] {
  const lines: string[] = [];
  for (const line of signedLines(track, cue, words)) {
    const text = plainLine(line) ?? srtLine(line);
    if (text !== null) lines.push(text);
  }
  return lines;
}

function addCue(file: string[], at: number, span: Span, lines: readonly string[]): void {
  file.push(String(at + 1), formatTiming(span, ','));
  for (const line of lines) file.push(line);
  // A cue without text keeps its place and time: readers drop one that has no line at all.
  if (lines.length === 0) file.push('\u00a0');
  file.push('');
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
