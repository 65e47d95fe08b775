import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, describe, expect, test } from 'vitest';
import { anyTrack } from '../../testing/any-track';
import { importedFrom } from '../../testing/caption-files';
import { makeCue, makeTrack, makeWord, markedLines, parseMarkedLine, plainLines, type Track } from '../../track';
import { USUAL_OPTIONS } from '../options';
import { cannotSayScc, formatScc, parseScc } from '.';
import { hasParity, withParity } from './codes';
import { writeLetters } from './letters';
import { parseSrt } from '../srt';

const OPTIONS = { ...USUAL_OPTIONS, title: '', durationMs: 60_000, startTimecode: '00:00:10:00' };
const PICTURE_MS = 1001 / 30;

/** Cues of lines that begin so many milliseconds apart and stand for all of it but a gap. */
function trackOf(cues: readonly (readonly string[])[], { everyMs = 3000, gapMs = 200 } = {}): Track {
  const words: ReturnType<typeof makeWord>[] = [];
  const made = cues.map((lines, at) => {
    const startMs = at * everyMs;
    const ids: string[] = [];
    const lineStarts: string[] = [];
    lines.forEach((line, number) => {
      const { text, marks } = parseMarkedLine(line);
      for (const found of text.matchAll(/\S+/g)) {
        const id = `w${words.length}`;
        const [from, to] = [found.index, found.index + found[0].length];
        if (number > 0 && !ids.includes(id) && text.slice(0, from).trim() === '') lineStarts.push(id);
        words.push(
          makeWord({
            ...{ id, text: found[0], startMs, endMs: startMs + 1, timing: 'heard' },
            marks: marks
              .filter((mark) => mark.from < to && mark.to > from)
              .map((mark) => ({ ...mark, from: Math.max(0, mark.from - from), to: Math.min(to, mark.to) - from }))
          })
        );
        ids.push(id);
      }
    });
    return makeCue({ id: `c${at}`, startMs, endMs: startMs + everyMs - gapMs, wordIds: ids, lineStarts });
  });
  return makeTrack({ ...{ id: 't', recordingId: 'r', language: 'en', title: '' }, words, cues: made });
}

const folder = mkdtempSync(join(tmpdir(), 'vinetap-scc-'));
afterAll(() => rmSync(folder, { recursive: true }));
/** What a reader that is not ours makes of the file. */
function readElsewhere(content: string): readonly { readonly startMs: number; readonly text: string }[] {
  const path = join(folder, 'captions.scc');
  writeFileSync(path, content);
  const srt = execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'srt', '-'], { encoding: 'utf8' });
  return parseSrt(srt).cues.map(({ startMs, lines }) => ({
    startMs,
    text: lines
      .map(({ markup }) =>
        parseMarkedLine(markup.replaceAll('\\h', ' '))
          .text.replaceAll(/\{\\[^}]*\}/g, '')
          .trim()
      )
      .join('\n')
  }));
}

test('a byte has an odd number of ones', () => {
  for (let byte = 0; byte < 128; byte++) {
    const ones = withParity(byte).toString(2).replaceAll('0', '').length;
    expect(ones % 2).toBe(1);
    expect(hasParity(withParity(byte))).toBe(true);
    expect(hasParity(withParity(byte) ^ 0x80)).toBe(false);
  }
});

describe('a file', () => {
  test('says codes twice, shows on a line of its own, and begins where it is to', () => {
    const track = trackOf([['Clock']]);
    expect(formatScc(track, { ...OPTIONS, startTimecode: '01:00:00:00' })).toBe(
      [
        'Scenarist_SCC V1.0',
        '00:59:59:19\t9420 9420 94ae 94ae 9476 9476 97a1 97a1 43ec efe3 6b80',
        '01:00:00:00\t942f 942f',
        '01:00:02:24\t942c 942c',
        ''
      ].join('\n\n')
    );
  });

  test('is read by another reader with the same cues, text and times', () => {
    const letters = ['Žluť, où êtes-vous?', 'Größe, año, señor ½ ♪', 'ÀÉÇ «Ü» “so” — è', 'It’s [bell] {x} \\ ^ _ ~'];
    const track = trackOf([
      ...letters.map((line) => [line]),
      ['The first line', 'and the second'],
      ['<i>late</i> clock']
    ]);
    const read = readElsewhere(formatScc(track, OPTIONS));
    expect(read.map(({ text }) => text)).toEqual([
      '?lu?, où êtes-vous?',
      'Größe, año, señor ½ ♪',
      // That reader shows a hyphen for the long dash.
      'ÀÉÇ «Ü» “so” - è',
      letters[3],
      'The first line\nand the second',
      'late clock'
    ]);
    read.forEach(({ startMs }, at) => {
      expect(Math.abs(startMs - (10 * 30 * PICTURE_MS + track.cues[at]!.startMs))).toBeLessThan(2 * PICTURE_MS);
    });
  });

  test('drops numbers where it is to, and keeps to the clock for an hour', () => {
    const track = trackOf([['one'], ['two']], { everyMs: 3_600_000 });
    const file = formatScc(track, { ...OPTIONS, startTimecode: '00:00:10;00', dropFrame: true });
    expect(file).toMatch(/\n01:00:10;0\d\t942f/);
    expect(formatScc(track, OPTIONS)).toMatch(/\n01:00:06:1\d\t942f/);
    expect(Math.abs(readElsewhere(file)[1]!.startMs - 3_610_000)).toBeLessThan(2 * PICTURE_MS);
    expect(Math.abs(parseScc(file).cues[1]!.startMs - 3_610_000)).toBeLessThan(2 * PICTURE_MS);
  });

  test('is read back: cues, text, italics and places', () => {
    const track = trackOf([['The <i>late</i> clock,', 'and <u>then</u>'], ['<i>all of it</i>'], ['x']]);
    const placed = {
      ...track,
      cues: track.cues.map((cue, at) => ({
        ...cue,
        placement: (['top left', 'middle right', 'bottom centre'] as const)[at]!
      }))
    };
    const { cues, problems } = parseScc(formatScc(placed, OPTIONS));
    expect(problems).toEqual([]);
    expect(cues.map(({ lines }) => lines.map(({ markup }) => markup))).toEqual(
      track.cues.map((cue) => markedLines(track, cue))
    );
    expect(cues.map(({ placement }) => placement)).toEqual(['top left', 'middle right', 'bottom centre']);
  });

  test('keeps the number of cues, the order of their words, and times to the picture where nothing is told', () => {
    fc.assert(
      fc.property(anyTrack, fc.boolean(), (track, dropFrame) => {
        const options = { ...OPTIONS, startTimecode: '00:30:00:00', dropFrame };
        const parsed = parseScc(formatScc(track, options));
        expect(parsed.problems).toEqual([]);
        expect(parsed.cues).toHaveLength(track.cues.length);
        const told = new Set(cannotSayScc(track, options).flatMap(({ cueIds }) => cueIds ?? []));
        const beganMs = 30 * 60 * (dropFrame ? 1000 : 1001);
        parsed.cues.forEach((cue, at) => {
          const source = track.cues[at]!;
          if (!told.has(source.id))
            expect(Math.abs(cue.startMs - beganMs - source.startMs)).toBeLessThanOrEqual(4 * PICTURE_MS);
        });
        const bare = (one: Track): readonly string[] =>
          one.cues.map((cue) =>
            plainLines(one, cue)
              .join('')
              .replaceAll(/[\s\u00a0]+/gu, '')
          );
        const isSaid = track.words.every(
          ({ text }) => [...text].every((letter) => writeLetters(letter) !== null) && !/['\u00a0]/.test(text)
        );
        if (isSaid) expect(bare({ ...importedFrom(parsed), rules: track.rules })).toEqual(bare(track));
      }),
      { numRuns: 200 }
    );
  });
});

describe('files of others', () => {
  test('painted ones and ones that roll up become a cue each', () => {
    const painted = parseScc(
      'Scenarist_SCC V1.0\n\n00:00:01:00\t9429 9429 9470 9470 4fe3 6b80\n\n00:00:04:00\t942c 942c\n'
    );
    expect(painted.cues.map(({ lines }) => lines.map(({ markup }) => markup))).toEqual([['Ock']]);
    const rolled = parseScc(
      [
        'Scenarist_SCC V1.0',
        '00:00:01:00\t9425 9425 94ad 94ad 9470 9470 ef6e e580',
        '00:00:03:00\t9425 9425 94ad 94ad 9470 9470 54f7 ef80',
        '00:00:05:00\t942c 942c'
      ].join('\n\n')
    );
    expect(rolled.problems).toEqual([]);
    expect(rolled.cues.map(({ startMs, endMs, lines }) => [startMs, endMs, lines[0]!.markup])).toEqual([
      [1201, 3070, 'one'],
      [3203, 5005, 'Two']
    ]);
  });

  test('whose parity, times or pairs are damaged are read as far as they go, and each repair is told', () => {
    const { cues, problems } = parseScc(
      '00:00:01:00 9420 9420 94ae 94ae 9470 9470 436c ef63 6b zz\nlost 9420\n00:00:02:00 942f 942f\n00:00:03:00 9420 9420 9470 9470 efef\n'
    );
    expect(cues.map(({ lines }) => lines[0]!.markup)).toEqual(['Cloc']);
    expect(problems.map(({ code, line }) => [code, line])).toEqual([
      ['no_header', 1],
      ['bad_character', 1],
      ['bad_timing', 2],
      ['stray_text', 4]
    ]);
    // An hour of its own is no hour of the recording's.
    const hour = parseScc(
      'Scenarist_SCC V1.0\n\n01:00:01:00\t9420 9420 9470 9470 43ec\n\n01:00:03:00\t942f 942f\n\n01:00:05:00\t942c 942c'
    );
    expect([hour.cues[0]!.startMs, hour.problems[0]!.code]).toEqual([6603, 'odd_timing']);
  });
});

test('what it cannot say is told: long lines, many rows, overlaps, cues that come late', () => {
  const codes = (track: Track): string[] => cannotSayScc(track, OPTIONS).map(({ code }) => code);
  expect(codes(trackOf([['The clock']]))).toEqual(['times_rounded']);
  expect(codes(trackOf([['A line of more than two and thirty columns']]))).toEqual(['lines_broken', 'times_rounded']);
  expect(codes(trackOf([['1', '2', '3', '4', '5']]))).toEqual(['too_many_rows', 'times_rounded']);
  expect(codes(trackOf([['one'], ['two']], { gapMs: -500 }))).toEqual(['overlaps_cut', 'times_rounded']);
  const hurried = Array.from({ length: 5 }, () => ['Far too many letters', 'for so little time']);
  expect(codes(trackOf(hurried, { everyMs: 300, gapMs: 0 }))).toEqual(['cues_late', 'times_rounded']);
});
