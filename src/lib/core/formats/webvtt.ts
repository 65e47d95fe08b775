/** WebVTT (.vtt), https://www.w3.org/TR/webvtt1/: cues with settings and voices; styles, regions and notes are kept as text. */
import {
  escapeMarkup,
  formatMarkedLine,
  signedLines,
  shownWordsOfAll,
  HOUSE_LOOK,
  placementOf,
  type Cue,
  type Look,
  type Placement,
  type Track,
  type Word
} from '../track';
import { wholeMs } from '../time';
import {
  badTiming,
  fillTimes,
  formatTiming,
  isMeantAsTiming,
  liftedTags,
  oddTiming,
  hasVisible,
  parseTiming,
  plainLine,
  quote,
  readMarkup,
  splitLines,
  withoutControls,
  type FileCue,
  type ParsedCaptions,
  type ParseProblem
} from './caption-file';

/** Reads what can be read; a block is what stands between blank lines, as §4.1 has it. */
export function parseWebVtt(content: string): ParsedCaptions {
  const lines = splitLines(content);
  const cues: FileCue[] = [];
  const untimed = new Set<FileCue>();
  const problems: ParseProblem[] = [];
  const blocks: string[] = [];
  let header = '';
  let at = 0;
  const signature = /^WEBVTT(?:[ \t](.*))?$/.exec(lines[0] ?? '');
  if (signature === null) {
    problems.push({
      code: 'no_header',
      line: 1,
      message: 'The file does not begin with WEBVTT; read all the same.',
      outcome: 'repaired'
    });
  } else {
    const head = [signature[1] ?? ''];
    for (at = 1; at < lines.length && lines[at] !== '' && !isMeantAsTiming(lines[at]!); at++) head.push(lines[at]!);
    header = head.join('\n').trimEnd();
  }
  while (at < lines.length) {
    if (lines[at]!.trim() === '') {
      at++;
      continue;
    }
    const from = at;
    const block: string[] = [];
    let timingAt = -1;
    while (at < lines.length && lines[at] !== '') {
      if (isMeantAsTiming(lines[at]!)) {
        if (timingAt >= 0) break;
        timingAt = block.length;
      }
      block.push(lines[at++]!);
    }
    if (timingAt < 0) {
      if (/^NOTE(?:[ \t]|$)/.test(block[0]!)) blocks.push(decodeReferences(block.join('\n')));
      else if (/^(STYLE|REGION)(?:[ \t]|$)/.test(block[0]!)) blocks.push(block.join('\n'));
      else
        problems.push({
          code: 'stray_text',
          line: from + 1,
          message: `${quote(block[0]!)} belongs to no cue; left out.`,
          outcome: 'skipped'
        });
      continue;
    }
    const line = from + timingAt + 1;
    const timing = parseTiming(block[timingAt]!, 'vtt');
    if (timing === null) problems.push(badTiming(line, block[timingAt]!));
    else if (!timing.isStrict) problems.push(oddTiming(line, block[timingAt]!));
    const markup = readMarkup(block.slice(timingAt + 1), decodeReferences);
    if (markup.unknownTags.length > 0) {
      problems.push(liftedTags(line, markup.unknownTags));
    }
    const settings =
      timing === null || timing.rest === ''
        ? ''
        : timing.rest
            .split(/\s+/)
            .filter((one) => /^[a-z]+:[^\s]+$/i.test(one))
            .join(' ');
    const isTimed = timing !== null;
    const cue: FileCue = {
      line,
      startMs: isTimed ? timing.startMs : wholeMs(0),
      endMs: isTimed ? timing.endMs : wholeMs(0),
      lines: markup.lines,
      placement: placementFromSettings(settings),
      carried: settings === '' ? null : { format: 'vtt', settings }
    };
    if (!isTimed) untimed.add(cue);
    cues.push(cue);
  }
  return {
    cues: fillTimes(cues, untimed),
    problems,
    carried: header === '' && blocks.length === 0 ? null : { format: 'vtt', header, blocks }
  };
}

const NAMED: Readonly<Record<string, string>> = {
  amp: '&',
  lt: '<',
  gt: '>',
  nbsp: '\u00a0',
  lrm: '\u200e',
  rlm: '\u200f',
  quot: '"',
  apos: "'"
};

function decodeReferences(text: string): string {
  if (!text.includes('&')) return text;
  return text.replace(
    /&(?:#(\d{1,7})|#x([\da-f]{1,6})|([a-z]+));/gi,
    (whole, decimal?: string, hex?: string, name?: string) => {
      if (name !== undefined) return NAMED[name] ?? whole;
      const code = decimal === undefined ? parseInt(hex!, 16) : Number(decimal);
      return code > 0x1f && code <= 0x10ffff ? String.fromCodePoint(code) : '\ufffd';
    }
  );
}

export function formatWebVtt(track: Track): string {
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
    lines.push(...voicedLines(signedLines(track, cue, words[at]!), speakers));
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

/** The settings that put a cue where it stands on the picture; none for the bottom centre, where players put it. */
export const cueSettings = (track: Track, cue: Cue): string =>
  cue.carried?.format === 'vtt'
    ? cue.carried.settings
    : aligned(placementSettings(placementOf(track, cue)), cue.look?.align ?? track.look.align);

/** Lines that are not centred among each other say so, where their place does not. */
const aligned = (settings: string, align: Look['align']): string =>
  align === 'centre' || settings.includes('align:') ? settings : `${settings} align:${align}`.trim();

/** §4.4: a line and a position that say one of nine points, or the middle of the captions. */
export function placementSettings(placement: Placement): string {
  if (typeof placement !== 'string') {
    const [x, y] = [placement.xPercent, placement.yPercent].map((percent) => Math.round(percent * 100) / 100);
    return `line:${y}%,center position:${x}%,center`;
  }
  const [height, side] = placement.split(' ') as ['top' | 'middle' | 'bottom', 'left' | 'centre' | 'right'];
  const line = { top: 'line:0', middle: 'line:50%,center', bottom: '' }[height];
  const position = { left: 'position:5% align:start', centre: '', right: 'position:95% align:end' }[side];
  return [line, position].filter((part) => part !== '').join(' ');
}

/** The nearest of the nine points to where settings put a cue; `null` where they say nothing of it. */
export function placementFromSettings(settings: string): Placement | null {
  if (settings === '') return null;
  const value = (name: string): string | undefined => new RegExp(`(?:^|\\s)${name}:([^\\s,]+)`).exec(settings)?.[1];
  const line = value('line');
  const position = value('position');
  const align = value('align');
  if (line === undefined && position === undefined && align === undefined) return null;
  const percent =
    line === undefined
      ? 100
      : line.endsWith('%')
        ? parseFloat(line)
        : Number(line) < 0
          ? 100
          : Number(line) > 9
            ? 100
            : 0;
  const height = percent < 34 ? 'top' : percent < 67 ? 'middle' : 'bottom';
  const across =
    position === undefined
      ? align === 'start' || align === 'left'
        ? 0
        : align === 'end' || align === 'right'
          ? 100
          : 50
      : parseFloat(position);
  const side = across < 34 ? 'left' : across < 67 ? 'centre' : 'right';
  return `${height} ${side}`;
}
