/** Timelines and lists for editing programs, read by readers that know nothing of how they are written. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { z } from 'zod';
import { anyTrack } from '../testing/any-track';
import { trackOfLines } from '../testing/fonts';
import { makeTrack, plainLines, type Track } from '../track';
import { exported, findFormat, formatEdl, formatOtio, remarksOn, USUAL_OPTIONS, type ExportOptions } from '.';
import { FRAME_RATES } from './options';

const ABOUT = { title: 'Winding the Merrowby clock', durationMs: 60_000 };
const asked = (options: Partial<ExportOptions> = {}) => ({ ...USUAL_OPTIONS, ...ABOUT, ...options });
const rates = fc.constantFrom(...(['23.976', '25', '29.97', '60'] as const));

interface Placed {
  readonly start: number;
  readonly end: number;
  readonly text: string;
}

const timeSchema = z.object({ OTIO_SCHEMA: z.literal('RationalTime.1'), rate: z.number(), value: z.int() });
const rangeSchema = z.object({ OTIO_SCHEMA: z.literal('TimeRange.1'), start_time: timeSchema, duration: timeSchema });
const otioSchema = z.object({
  OTIO_SCHEMA: z.literal('Timeline.1'),
  global_start_time: timeSchema,
  tracks: z.object({
    OTIO_SCHEMA: z.literal('Stack.1'),
    children: z.array(
      z.object({
        OTIO_SCHEMA: z.literal('Track.1'),
        children: z.array(
          z.object({
            OTIO_SCHEMA: z.enum(['Clip.1', 'Gap.1']),
            name: z.string(),
            source_range: rangeSchema,
            markers: z.array(
              z.object({ OTIO_SCHEMA: z.literal('Marker.2'), name: z.string(), marked_range: rangeSchema })
            )
          })
        )
      })
    )
  })
});

/** Where things stand on the timeline, as playing one after the other puts them there. */
function readOtio(text: string) {
  const { global_start_time: start, tracks } = otioSchema.parse(JSON.parse(text));
  const [recording, ...lanes] = tracks.children;
  const placed = lanes.flatMap(({ children }) => {
    let at = 0;
    return children.flatMap((item): readonly Placed[] => {
      const from = at;
      at += item.source_range.duration.value;
      return item.OTIO_SCHEMA === 'Gap.1' ? [] : [{ start: from, end: at, text: item.name }];
    });
  });
  const clip = recording!.children[0]!;
  const marks = clip.markers.map(({ name, marked_range: at }): Placed => {
    const from = at.start_time.value - clip.source_range.start_time.value;
    return { start: from, end: from + at.duration.value, text: name };
  });
  const inOrder = (some: readonly Placed[]): readonly Placed[] =>
    some.toSorted((a, b) => a.start - b.start || a.end - b.end || (a.text < b.text ? -1 : 1));
  return { start, placed: inOrder(placed), marks: inOrder(marks), length: clip.source_range.duration.value };
}

const EVENT =
  /^(\d{3,}) {2}([A-Z0-9]{1,8}) +V {5}C {8}(\d\d:\d\d:\d\d[:;]\d\d) (\d\d:\d\d:\d\d[:;]\d\d) (\d\d:\d\d:\d\d[:;]\d\d) (\d\d:\d\d:\d\d[:;]\d\d)$/;
const readEdl = (text: string) =>
  text
    .split('\r\n')
    .reduce<{ readonly number: string; readonly times: readonly string[]; readonly said: string[] }[]>(
      (events, line) => {
        const found = EVENT.exec(line);
        if (found !== null) return [...events, { number: found[1]!, times: found.slice(3), said: [] }];
        if (line.startsWith('* COMMENT: ')) events.at(-1)!.said.push(line.slice('* COMMENT: '.length));
        return events;
      },
      []
    );

describe('a timeline', () => {
  test('has each cue as a marker and as a clip, where it is, at any rate', () => {
    fc.assert(
      fc.property(anyTrack, rates, (track, frameRate) => {
        const read = readOtio(formatOtio(track, asked({ frameRate, startTimecode: '01:00:00:00' })));
        const wanted = track.cues.map((cue) => ({
          start: (cue.startMs * FRAME_RATES[frameRate]) / 1000,
          end: (cue.endMs * FRAME_RATES[frameRate]) / 1000,
          text: plainLines(track, cue).join(' ')
        }));
        expect(read.placed).toEqual(read.marks);
        expect(read.placed).toHaveLength(wanted.length);
        expect(read.placed.map(({ text }) => text).toSorted()).toEqual(wanted.map(({ text }) => text).toSorted());
        read.placed.forEach(({ start }, at) => {
          expect(Math.abs(start - wanted.map((one) => one.start).toSorted((a, b) => a - b)[at]!)).toBeLessThanOrEqual(
            0.5
          );
        });
        expect(read.start.value).toBe(3600 * Math.round(FRAME_RATES[frameRate]));
      }),
      { numRuns: 60 }
    );
  });

  test('of many cues does not drift', () => {
    const [word, cue] = [trackOfLines(['x']).words[0]!, trackOfLines(['x']).cues[0]!];
    const many = Array.from({ length: 500 }, (_, at) => ({ startMs: at * 3337, endMs: at * 3337 + 3337 }));
    const track = makeTrack({
      ...{ id: 't', recordingId: 'r', language: 'en', title: '' },
      words: many.map((span, at) => ({ ...word, ...span, id: `w${at}` })) as never,
      cues: many.map((span, at) => ({ ...cue, ...span, id: `c${at}`, wordIds: [`w${at}`], lineStarts: [] })) as never
    });
    const { placed } = readOtio(formatOtio(track, asked({ frameRate: '29.97' })));
    expect(placed.at(-1)!.end).toBe(Math.round((500 * 3337 * 30) / 1001));
  });
});

describe('an edit decision list', () => {
  test('says where each cue is, and its lines', () => {
    const file = formatEdl(trackOfLines(['It strikes', 'twelve.']), asked({ startTimecode: '10:00:00:00' }));
    expect(file).toMatch(
      /^TITLE: Winding the Merrowby clock\r\nFCM: NON-DROP FRAME\r\n\r\n001 {2}WINDINGT V {5}C {8}10:00:0/
    );
    expect(readEdl(file).map(({ number, said }) => [number, said])).toEqual([['001', ['It strikes', 'twelve.']]]);
  });

  test('has an event for each cue, in order, none in another, and drops numbers where it is to', () => {
    fc.assert(
      fc.property(anyTrack, fc.boolean(), (track, dropFrame) => {
        const events = readEdl(formatEdl(track, asked({ frameRate: '29.97', dropFrame })));
        expect(events).toHaveLength(track.cues.length);
        events.forEach(({ times: [from = '', to = ''] }, at) => {
          expect(from < to).toBe(true);
          expect(from.includes(';')).toBe(dropFrame);
          const cue = track.cues[at]!;
          const next = track.cues[at + 1];
          if (next !== undefined && next.startMs >= cue.endMs + 40) expect(to <= events[at + 1]!.times[0]!).toBe(true);
        });
      }),
      { numRuns: 60 }
    );
  });

  test('tells what it cannot say', () => {
    const overlapping = (track: Track): Track => ({
      ...track,
      cues: [track.cues[0]!, { ...track.cues[0]!, id: 'c9' as never, wordIds: [], lineStarts: [] }]
    });
    const codes = (track: Track) => remarksOn(track, findFormat('edl')!, asked()).map(({ code }) => code);
    expect(codes(trackOfLines(['one']))).toEqual(['times_rounded']);
    expect(codes(overlapping(trackOfLines(['one'])))).toEqual(['overlaps_cut', 'times_rounded']);
  });
});

test('captions begin at the time code of the editor’s timeline', () => {
  const track = trackOfLines(['one']);
  const startMs = track.cues[0]!.startMs;
  const moved = exported(track, asked({ startTimecode: '01:00:00:12', offsetMs: 5 }));
  expect(moved.cues[0]!.startMs).toBe(startMs + 3_600_000 + 480 + 5);
  expect(exported(track, asked({ startTimecode: '01:00:00:12' }), findFormat('stl')).cues[0]!.startMs).toBe(startMs);
});
