/** Writes SubRip text. */
import { formatMarkedLine, shownWordsOfAll, signedLines, type Track, type Word } from '../../track';
import { formatTiming, hasVisible, plainLine, withoutControls } from '../caption-file';

export function formatSrt(track: Track): string {
  const words = shownWordsOfAll(track);
  const lines: string[] = [];
  track.cues.forEach((cue, at) => {
    lines.push(String(at + 1), formatTiming(cue, ','));
    const before = lines.length;
    for (const line of signedLines(track, cue, words[at]!)) {
      const text = plainLine(line) ?? srtLine(line);
      if (text !== null) lines.push(text);
    }
    // A cue without text keeps its place and time: readers drop one that has no line at all.
    if (lines.length === before) lines.push('\u00a0');
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
