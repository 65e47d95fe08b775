/** What the site wants of a caption file: its name, its language, its size, and what is in it. */
import type { Channel } from '$lib/server/sites/simulated/protocol';

export const CHANNEL: Channel = {
  name: 'Merrowby Museum Channel (simulated)',
  languages: [
    ...['de', 'el', 'en', 'en-GB', 'es-419', 'es-ES', 'fi', 'fr', 'fr-CA', 'it', 'ja', 'nl', 'pl'],
    ...['pt-BR', 'pt-PT', 'ru', 'sv', 'tr', 'uk', 'zh-Hans', 'zh-Hant']
  ],
  mostNameLength: 40,
  mostBytes: 400_000
};

const NAME = /^([\p{L}\p{N}_-]{1,120})\.([a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)(?:\.(captions|subtitles))?\.(srt|vtt)$/u;

export interface NamedCaption {
  readonly language: string;
  readonly kind: 'captions' | 'subtitles';
  readonly format: 'srt' | 'vtt';
}

/** What a file is by its name alone; a sentence where it is nothing. */
export function readName(file: string): NamedCaption | string {
  const found = NAME.exec(file);
  if (found === null)
    return `“${file}” is not named as caption files are here: TITLE.LANGUAGE.srt or .vtt, with .captions or .subtitles before the ending.`;
  const [, , language = '', kind = 'subtitles', format = 'srt'] = found;
  if (CHANNEL.languages.includes(language))
    return { language, kind: kind as NamedCaption['kind'], format: format as NamedCaption['format'] };
  const near = CHANNEL.languages.filter((tag) => tag.split('-')[0] === language.split('-')[0]);
  return near.length === 0
    ? `The language “${language}” is not one of this site’s.`
    : `The language “${language}” is not one of this site’s: say ${near.join(' or ')}.`;
}

export interface ShownCue {
  readonly startMs: number;
  readonly endMs: number;
  readonly text: string;
}

const TIMING = /^(?:(\d{2,}):)?(\d{2}):(\d{2})[.,](\d{3}) --> (?:(\d{2,}):)?(\d{2}):(\d{2})[.,](\d{3})(?: .*)?$/;

/** The cues of a file; a sentence where it is broken. */
export function readCues(text: string): readonly ShownCue[] | string {
  const cues: ShownCue[] = [];
  for (const block of text
    .replace(/^\ufeff/, '')
    .replaceAll('\r\n', '\n')
    .split(/\n{2,}/)) {
    const lines = block.split('\n').filter((line) => line !== '');
    const at = lines.findIndex((line) => line.includes('-->'));
    if (at < 0) continue;
    const found = TIMING.exec(lines[at]!);
    if (found === null) return `The time “${lines[at]!.slice(0, 60)}” cannot be read.`;
    const ms = (from: number): number =>
      ((Number(found[from] ?? 0) * 60 + Number(found[from + 1])) * 60 + Number(found[from + 2])) * 1000 +
      Number(found[from + 3]);
    cues.push({ startMs: ms(1), endMs: ms(5), text: lines.slice(at + 1).join('\n') });
  }
  return cues;
}

/** Everything that speaks against what is in a file, a sentence each. */
export function reasonsAgainst(bytes: Uint8Array, durationMs: number): readonly string[] {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return ['The file is not written in UTF-8.'];
  }
  const cues = readCues(text);
  if (typeof cues === 'string') return [cues];
  if (cues.length === 0) return ['There are no captions in the file.'];
  const late = cues.filter(({ startMs }) => startMs > durationMs);
  const backward = cues.filter(({ startMs, endMs }) => endMs <= startMs);
  return [
    ...(late.length > 0 ? [`${late.length} of ${cues.length} captions begin after the video’s end.`] : []),
    ...(backward.length > 0 ? [`${backward.length} of ${cues.length} captions end before they begin.`] : [])
  ];
}

/** A file as browsers show it in a `<track>`: they take WebVTT alone. */
export function asWebVtt(text: string, format: 'srt' | 'vtt'): string {
  if (format === 'vtt') return text;
  const cues = text.replace(/^\ufeff/, '').replaceAll('\r\n', '\n');
  return `WEBVTT\n\n${cues.replaceAll(/(\d\d:\d\d:\d\d),(\d{3})/g, '$1.$2')}`;
}
