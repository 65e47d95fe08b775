import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { importedFrom } from '../../testing/caption-files';
import { anyTrack } from '../../testing/any-track';
import { trackOfLines } from '../../testing/fonts';
import { compareCues, makeCue, makeTrack, makeWord, markedLines, plainLines, type Track } from '../../track';
import { USUAL_OPTIONS } from '../options';
import { cannotSayStl, formatStl, isStl, parseStl } from '.';
import { CODE_TABLES } from './letters';

const OPTIONS = { ...USUAL_OPTIONS, title: 'Winding the clock', durationMs: 60_000 };
const trackOf = (lines: readonly string[], language = 'en'): Track => ({ ...trackOfLines(lines), language });
const text = (bytes: Uint8Array, from: number, length: number): string =>
  String.fromCharCode(...bytes.subarray(from, from + length));

describe('letters', () => {
  const LATIN = [...'AZaz09 !?-$¡£§«°±×÷¿ÆØŒßæøœłđŧŋ♪½'];

  test('are written as a converter that is not ours reads them', () => {
    const [latin] = CODE_TABLES;
    const accented = ['é', 'È', 'ô', 'ñ', 'ā', 'ğ', 'ż', 'ü', 'å', 'ç', 'ő', 'ę', 'č'];
    for (const letter of [...LATIN, ...accented]) {
      const bytes = latin!.encode(letter);
      expect(bytes, letter).not.toBeNull();
      const read = execFileSync('iconv', ['-f', 'ISO_6937-2', '-t', 'UTF-8'], {
        input: Uint8Array.from(bytes!),
        encoding: 'utf8'
      });
      expect(read.normalize('NFC'), letter).toBe(letter);
    }
    expect(latin!.encode('é')).toEqual([0xc2, 0x65]);
    expect(latin!.encode('塔')).toBeNull();
    expect(latin!.decode([0x24, 0xa4, 0xc8, 0x75])).toBe('$$ü');
  });

  test('of every table are read back', () => {
    const samples = ['Zażółć gęślą jaźń, où êtes-vous?', 'Часы на башне бьют', 'الساعة', 'Το ρολόι', 'השעון מאחר'];
    samples.forEach((sample, at) => {
      const table = CODE_TABLES[at]!;
      const bytes = [...sample.normalize('NFC')].flatMap((letter) => table.encode(letter) ?? [0x3f]);
      expect(table.decode(bytes)).toBe(sample.normalize('NFC'));
    });
  });
});

describe('a file', () => {
  test('says what the standard has at each place', () => {
    const file = formatStl(trackOf(['Żółw — the clock', 'is <late>.']), { ...OPTIONS, startTimecode: '10:00:00:00' });
    expect(file.length).toBe(1024 + 128);
    expect(isStl(file)).toBe(true);
    expect([text(file, 0, 11), text(file, 11, 5), text(file, 16, 20).trim()]).toEqual([
      '850STL25.01',
      '00009',
      'Winding the clock'
    ]);
    // One block, one subtitle, one group; the time code is meant, and begins at ten o'clock.
    expect([text(file, 238, 13), text(file, 255, 9)]).toEqual(['0000100001001', '110000000']);
    const block = [...file.subarray(1024)];
    expect(block.slice(0, 5)).toEqual([0, 0, 0, 0xff, 0]);
    expect(block[5]).toBe(10);
    expect([block[13], block[14], block[15]]).toEqual([21, 2, 0]);
    expect(block.slice(16, 22)).toEqual([0xc7, 0x5a, 0xc2, 0x6f, 0xf8, 0x77]);
    expect(block).toContain(0x8a);
    expect(block.at(-1)).toBe(0x8f);
  });

  test('is read back with its cues, text and italics; times to the picture; the alphabet is the one that the text needs', () => {
    for (const [language, line] of [
      ['en', 'The <i>late</i> clock'],
      ['ru', 'Часы на башне'],
      ['he', 'השעון מאחר'],
      ['el', 'Το ρολόι'],
      ['ar', 'الساعة متأخرة']
    ] as const) {
      const track = trackOf([line, 'x'], language);
      const { cues, problems } = parseStl(formatStl(track, { ...OPTIONS, startTimecode: '10:00:00:00' }));
      expect(problems).toEqual([]);
      expect(cues.map(({ lines }) => lines.map(({ markup }) => markup))).toEqual(
        track.cues.map((cue) => markedLines(track, cue))
      );
    }
    fc.assert(
      fc.property(anyTrack, fc.constantFrom('25' as const, '29.97' as const), (track, frameRate) => {
        const parsed = parseStl(formatStl(track, { ...OPTIONS, frameRate, startTimecode: '01:00:00:00' }));
        expect(parsed.problems).toEqual([]);
        expect(parsed.cues).toHaveLength(track.cues.length);
        const half = 500 / (frameRate === '25' ? 25 : 30) + 1;
        parsed.cues.forEach((cue, at) => {
          expect(Math.abs(cue.startMs - track.cues[at]!.startMs)).toBeLessThanOrEqual(half);
          expect(cue.endMs).toBeGreaterThan(cue.startMs);
        });
        const bare = (one: Track): readonly string[] =>
          one.cues.map((cue) =>
            plainLines(one, cue)
              .join(' ')
              .replaceAll(/[^\p{L}\p{N}]+/gu, '')
          );
        // Two that begin within one picture stand in the order of their ends.
        const inFileTimes: Track = {
          ...track,
          cues: track.cues
            .map((cue, at) => ({ ...cue, startMs: parsed.cues[at]!.startMs, endMs: parsed.cues[at]!.endMs }))
            .toSorted(compareCues)
        };
        const latin = CODE_TABLES[0]!;
        if (track.words.every((word) => [...word.text].every((letter) => latin.encode(letter) !== null)))
          expect(bare(importedFrom(parsed))).toEqual(bare(inFileTimes));
      }),
      { numRuns: 60 }
    );
  });

  test('with a long text has as many blocks as it needs, and parts no accent from its letter', () => {
    const long = Array.from({ length: 90 }, () => 'éé').join(' ');
    const track = makeTrack({
      ...{ id: 't', recordingId: 'r', language: 'fr', title: '' },
      words: long
        .split(' ')
        .map((one, at) => makeWord({ id: `w${at}`, text: one, startMs: at, endMs: at + 1, timing: 'heard' })),
      cues: [makeCue({ id: 'c', startMs: 0, endMs: 2000, wordIds: Array.from({ length: 90 }, (_, at) => `w${at}`) })]
    });
    const file = formatStl(track, OPTIONS);
    expect(Array.from({ length: 5 }, (_, at) => file[1024 + at * 128 + 3])).toEqual([0, 1, 2, 3, 0xff].slice(0, 5));
    expect(parseStl(file).cues[0]!.lines[0]!.markup).toBe(long);
  });

  test('of teletext, with comments, or cut off, is read as far as it goes', () => {
    const file = formatStl(trackOf(['one']), OPTIONS);
    const teletext = Uint8Array.from(file);
    // Start of a box, double height, a colour, then the text and the end of the box.
    teletext.set([0x0d, 0x0b, 0x0b, 0x06, 0x6f, 0x6e, 0x65, 0x0a, 0x0a, 0x8f], 1024 + 16);
    expect(parseStl(teletext).cues[0]!.lines).toEqual([{ markup: 'one', speaker: null }]);
    const comment = Uint8Array.from(file);
    comment[1024 + 15] = 1;
    expect(parseStl(comment).cues).toEqual([]);
    expect(parseStl(file.subarray(0, 1100)).problems.map(({ code }) => code)).toEqual(['stray_text']);
    for (const nothing of [new Uint8Array(), new Uint8Array(2000), new TextEncoder().encode('WEBVTT')])
      expect(parseStl(nothing)).toMatchObject({ cues: [], problems: [{ code: 'no_header' }] });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(1151), fc.nat(255)), { maxLength: 40 }), (changes) => {
        const broken = Uint8Array.from(file);
        for (const [at, byte] of changes) broken[at] = byte;
        expect(() => parseStl(broken)).not.toThrow();
      })
    );
  });
});

test('what it cannot say is told: letters, bold, voices, pictures', () => {
  const codes = (track: Track): string[] => cannotSayStl(track, OPTIONS).map(({ code }) => code);
  const plain = trackOf(['塔 and tower']);
  const bold = {
    ...plain,
    words: plain.words.map((word) => ({ ...word, marks: [{ kind: 'b' as const, from: 0, to: 1 }] }))
  };
  expect(codes(trackOf(['The clock']))).toEqual(['times_rounded']);
  expect(codes(bold)).toEqual(['letters_not_carried', 'marks_not_carried', 'times_rounded']);
  expect(cannotSayStl(trackOf(['塔']), OPTIONS)[0]!.message).toBe('STL has no 塔: question marks stand for them.');
});
