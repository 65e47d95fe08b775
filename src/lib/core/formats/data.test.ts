/** Tables and whole tracks: what programs take. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asTrackId } from '../id';
import { anyTrack } from '../testing/any-track';
import { importedFrom, nastyTrack, shapeOf } from '../testing/caption-files';
import { makeCue, makeTrack, makeWord, plainLines, type Track } from '../track';
import {
  encodeText,
  exported,
  formatCsv,
  formatJson,
  formatOptions,
  parseCsv,
  parseJson,
  parseOptions,
  USUAL_OPTIONS,
  type ExportOptions
} from '.';

const OPTIONS = { ...USUAL_OPTIONS, title: '', durationMs: 60_000 };
const PLACE = { id: asTrackId('new'), recordingId: 'there' };

describe('a table', () => {
  test('keeps every cue, its times and lines, whatever the text is', () => {
    fc.assert(
      fc.property(nastyTrack, (track) => {
        const parsed = parseCsv(formatCsv(track, OPTIONS));
        expect(parsed.problems).toEqual([]);
        // Two voices in one cue are no column: their signs are text.
        expect(shapeOf({ ...importedFrom(parsed), rules: track.rules })).toEqual(
          track.cues.map((cue, at) => [cue.startMs, cue.endMs, shapeOf(track)[at]![2]])
        );
      })
    );
  });

  test('is written as RFC 4180 has it, and starts no formula in a spreadsheet', () => {
    const track = makeTrack({
      ...{ id: 't', recordingId: 'r', language: 'en', title: '' },
      words: ['=SUM(A1)', '"so"'].map((text, at) =>
        makeWord({ id: `w${at}`, text, startMs: at, endMs: at + 1, timing: 'heard' })
      ),
      cues: [makeCue({ id: 'c', startMs: 1500, endMs: 3_723_004, wordIds: ['w0', 'w1'], lineStarts: ['w1'] })]
    });
    expect(formatCsv(track, OPTIONS)).toBe(
      'number,start,end,speaker,text\r\n1,00:00:01.500,01:02:03.004,,"\'=SUM(A1)\n""so"""\r\n'
    );
  });

  test('of others is read by the names of its columns, in any order and with any sign between them', () => {
    const { cues, problems } = parseCsv('Text;Voice;Out;In\nIt strikes.;Ines;3,5;0:01\n\nwhen?;;;soon\n');
    expect(cues.map(({ startMs, endMs, lines }) => [startMs, endMs, lines[0]])).toEqual([
      [1000, 3500, { markup: 'It strikes.', speaker: 'Ines' }],
      [3500, 4500, { markup: 'when?', speaker: null }]
    ]);
    expect(problems.map(({ code }) => code)).toEqual(['bad_timing']);
    for (const nothing of ['', '\n\n', '\u0000', 'a,b\n"c']) expect(() => parseCsv(nothing)).not.toThrow();
  });
});

describe('a track whole', () => {
  test('is read back to the last field, in its new place', () => {
    fc.assert(
      fc.property(anyTrack, (track) => {
        const back = parseJson(formatJson(track), PLACE);
        expect(back.ok && back.value).toEqual({ ...track, ...PLACE, sourceTrackId: null });
      })
    );
  });

  test('that is none, is newer, or does not hold together is refused with the reason', () => {
    const whole = JSON.parse(formatJson(fc.sample(anyTrack, 1)[0]!)) as Record<string, unknown>;
    const refused = (content: string): string => {
      const read = parseJson(content, PLACE);
      return read.ok ? '' : read.problem.message;
    };
    expect(refused('{')).toContain('no JSON');
    expect(refused('[]')).toContain('holds no track');
    expect(refused(JSON.stringify({ ...whole, vineTapTrack: 2 }))).toContain('newer version');
    expect(refused(JSON.stringify({ ...whole, words: [{ id: 1 }] }))).toContain('words.0');
    expect(
      refused(JSON.stringify({ ...whole, cues: [makeCue({ id: 'c', startMs: 0, endMs: 9, wordIds: ['gone'] })] }))
    ).toContain('not whole');
  });
});

describe('what is said with a file', () => {
  const anyOptions = fc.record({
    ...{ times: fc.boolean(), speakers: fc.boolean(), sounds: fc.boolean(), formatting: fc.boolean() },
    ...{
      offsetMs: fc.integer({ min: -1e6, max: 1e6 }),
      dropFrame: fc.boolean(),
      startTimecode: fc.constantFrom('10:00:00:00', '01:00:00;00')
    },
    ...{ frameRate: fc.constantFrom('25' as const, '29.97' as const), byteOrderMark: fc.boolean(), crlf: fc.boolean() }
  }) satisfies fc.Arbitrary<ExportOptions>;

  test('goes into an address and comes out of it; what makes no sense is told', () => {
    fc.assert(
      fc.property(anyOptions, anyOptions, (options, usual) => {
        const back = parseOptions(formatOptions(options, usual), usual);
        expect(back.ok && back.value).toEqual(options);
      })
    );
    for (const [name, value] of [
      ['offsetMs', 'soon'],
      ['offsetMs', '1e99'],
      ['frameRate', '26'],
      ['startTimecode', 'ten']
    ] as const) {
      const read = parseOptions(new Map([[name, value]]), USUAL_OPTIONS);
      expect(read.ok ? '' : read.problem.message).toContain(name);
    }
  });

  test('moves times, and leaves out what then ends before the beginning', () => {
    fc.assert(
      fc.property(anyTrack, fc.integer({ min: -20_000, max: 20_000 }), (track, offsetMs) => {
        const moved = exported(track, { ...USUAL_OPTIONS, offsetMs });
        const kept = track.cues.filter(({ endMs }) => endMs + offsetMs > 0);
        expect(moved.cues.map(({ id }) => id).sort()).toEqual(kept.map(({ id }) => id).sort());
        for (const cue of moved.cues) {
          const old = track.cues.find(({ id }) => id === cue.id)!;
          expect([cue.startMs, cue.endMs]).toEqual([Math.max(0, old.startMs + offsetMs), old.endMs + offsetMs]);
        }
      })
    );
  });

  test('leaves out sounds and formatting where they are not wanted; as usual the track is the same', () => {
    fc.assert(
      fc.property(anyTrack, (track) => {
        expect(exported(track, USUAL_OPTIONS)).toBe(track);
        const bare = exported(track, { ...USUAL_OPTIONS, sounds: false, formatting: false });
        expect(bare.words.flatMap(({ marks }) => marks)).toEqual([]);
        const texts = (one: Track): string => one.cues.flatMap((cue) => plainLines(one, cue)).join(' ');
        for (const { kind, shown, text } of track.words)
          if (
            kind === 'sound' &&
            shown &&
            text.length > 3 &&
            !track.words.some((word) => word.kind !== 'sound' && word.text.includes(text))
          )
            expect(texts(bare)).not.toContain(text);
      })
    );
    expect([...encodeText('a\nb\n', { ...USUAL_OPTIONS, byteOrderMark: true, crlf: true })]).toEqual([
      ...[0xef, 0xbb, 0xbf, 0x61, 13, 10, 0x62, 13, 10]
    ]);
  });
});
