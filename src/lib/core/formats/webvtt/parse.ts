/** Reads WebVTT. */
import { wholeMs } from '../../time';
import {
  badTiming,
  fillTimes,
  isMeantAsTiming,
  liftedTags,
  oddTiming,
  parseTiming,
  quote,
  readMarkup,
  splitLines,
  type FileCue,
  type ParsedCaptions,
  type ParseProblem
} from '../caption-file';
import { placementFromSettings } from './settings';

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
