/** Writes WebVTT. */
import {
  escapeMarkup,
  formatMarkedLine,
  HOUSE_LOOK,
  shownWordsOfAll,
  signedLines,
  type Track,
  type Word
} from '../../track';
import { formatTiming, hasVisible, plainLine, withoutControls } from '../caption-file';
import { USUAL_OPTIONS, type ExportOptions } from '../options';
import { cueSettings } from './settings';

/** Without `speakers` no voices are told. */
export function formatWebVtt(
  track: Track,
  { speakers: tellsVoices }: Pick<ExportOptions, 'speakers'> = USUAL_OPTIONS
): string {
  const speakers = new Map(track.speakers.map((speaker) => [speaker.id, speaker.name]));
  const { header, blocks }: { readonly header: string; readonly blocks: readonly string[] } =
    track.carried?.format === 'vtt' ? track.carried : { header: '', blocks: [] };
  const head = header === '' ? 'WEBVTT' : `WEBVTT ${header}`;
  const lines = [head, ...blocks.flatMap((block) => ['', block.startsWith('NOTE') ? noteText(block) : block])];
  const style = styleBlock(track);
  // One that came with the file says so already.
  if (style !== null && !blocks.includes(style)) lines.push('', style);
  const words = shownWordsOfAll(track);
  for (const [at, cue] of track.cues.entries()) {
    const settings = cueSettings(track, cue);
    const timing = formatTiming(cue, '.');
    lines.push('', settings === '' ? timing : `${timing} ${settings}`);
    const signed = signedLines(track, cue, words[at]!);
    lines.push(...(tellsVoices ? voicedLines(signed, speakers) : plainLines(signed)));
  }
  return `${lines.join('\n')}\n`;
}

/** §8: what browsers show of the colours; `null` where they are as a player has them by itself. */
function styleBlock({ look, speakers }: Track): string | null {
  const isOwnBox = JSON.stringify(look.box) !== JSON.stringify(HOUSE_LOOK.box);
  const [red, green, blue] = [1, 3, 5].map((at) => parseInt(look.box.color.slice(at, at + 2), 16));
  const opacity = look.box.kind === 'none' ? 0 : look.box.opacity;
  const all = [
    ...(look.color === HOUSE_LOOK.color ? [] : [`color: ${look.color};`]),
    ...(isOwnBox ? [`background-color: rgba(${red}, ${green}, ${blue}, ${opacity});`] : [])
  ];
  const voices = speakers.flatMap(({ name, look: own }) =>
    own?.color === undefined ? [] : [`::cue(v[voice="${cssText(voiceText(name))}"]) { color: ${own.color}; }`]
  );
  const rules = [...(all.length === 0 ? [] : [`::cue { ${all.join(' ')} }`]), ...voices];
  return rules.length === 0 ? null : ['STYLE', ...rules].join('\n');
}

/** In a CSS string; an arrow would end the block. */
const cssText = (text: string): string => text.replace(/["\\]/g, '\\$&').replaceAll('-->', '--\\3e ');

/** An ampersand in a note as its entity, and an arrow that would make it a cue. */
const noteText = (block: string): string => block.replaceAll('&', '&amp;').replaceAll('-->', '--&gt;');

const plainLines = (lines: readonly (readonly Word[])[]): string[] =>
  lines.map((words) => plainLine(words) ?? withoutControls(formatMarkedLine(words))).filter(hasVisible);

/** Lines with a voice before the words whose speaker is not the one before. */
function voicedLines(lines: readonly (readonly Word[])[], speakers: ReadonlyMap<string, string>): string[] {
  let now: string | null = null;
  const out = lines.map((words) => {
    let line = '';
    for (let from = 0; from < words.length;) {
      const speaker = words[from]!.speakerId;
      let to = from + 1;
      while (to < words.length && words[to]!.speakerId === speaker) to++;
      if (speaker !== now) {
        if (now !== null) line += '</v>';
        if (from > 0) line += ' ';
        if (speaker !== null) line += `<v ${voiceName(speakers.get(speaker) ?? speaker)}>`;
      } else if (from > 0) line += ' ';
      now = speaker;
      const run = from === 0 && to === words.length ? words : words.slice(from, to);
      line += plainLine(run) ?? withoutControls(formatMarkedLine(run));
      from = to;
    }
    return line;
  });
  if (now !== null && out.some((line) => line.includes('</v>'))) out[out.length - 1] += '</v>';
  return out.filter(hasVisible);
}

const voiceText = (name: string): string => withoutControls(name).trim();
const voiceName = (name: string): string => escapeMarkup(voiceText(name));
