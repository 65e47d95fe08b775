/** What may be said with a file that is written: by each format those that it names, the others stay as they are. */
import { z } from 'zod';
import { fail, ok, type Result } from '../result';
import { MOST_MS, wholeMs } from '../time';
import { compareCues, type Cue, type Track } from '../track';

/** Pictures a second, by what they are called. */
export const FRAME_RATES = {
  '23.976': 24_000 / 1001,
  '24': 24,
  '25': 25,
  '29.97': 30_000 / 1001,
  '30': 30,
  '50': 50,
  '59.94': 60_000 / 1001,
  '60': 60
} as const;
export type FrameRateName = keyof typeof FRAME_RATES;

/** The one that is nearest to a video's own; the usual one for sound. */
export const frameRateOf = (rate: number | undefined): FrameRateName =>
  rate === undefined
    ? USUAL_OPTIONS.frameRate
    : (Object.keys(FRAME_RATES) as FrameRateName[]).reduce((best, name) =>
        Math.abs(FRAME_RATES[name] - rate) < Math.abs(FRAME_RATES[best] - rate) ? name : best
      );

/** `1:00:00:00`, or `01:00:00;00` where numbers are dropped. */
const TIMECODE = /^\d{1,2}:[0-5]\d:[0-5]\d[:;]\d{2}$/;

export const exportOptionsSchema = z
  .object({
    /** In transcripts. */
    times: z.boolean(),
    speakers: z.boolean(),
    /** Described sounds. */
    sounds: z.boolean(),
    /** Italics, bold, underlines. */
    formatting: z.boolean(),
    /** Added to every time; what then ends before the beginning is left out. */
    offsetMs: z.int().min(-MOST_MS).max(MOST_MS),
    frameRate: z.enum(Object.keys(FRAME_RATES) as [FrameRateName, ...FrameRateName[]]),
    dropFrame: z.boolean(),
    /** Of the recording's first picture. Files without pictures begin at that time of the clock. */
    startTimecode: z.string().regex(TIMECODE),
    byteOrderMark: z.boolean(),
    /** Lines end as on Windows. */
    crlf: z.boolean()
  })
  .readonly();
export type ExportOptions = z.infer<typeof exportOptionsSchema>;
export type OptionName = keyof ExportOptions;

export const USUAL_OPTIONS: ExportOptions = {
  ...{ times: true, speakers: true, sounds: true, formatting: true, offsetMs: 0 },
  ...{ frameRate: '25', dropFrame: false, startTimecode: '00:00:00:00', byteOrderMark: false, crlf: false }
};

/** What a format is asked with, where nothing is said. */
export const usualOptions = ({
  defaults
}: {
  readonly defaults?: Partial<ExportOptions> | undefined;
}): ExportOptions => ({
  ...USUAL_OPTIONS,
  ...defaults
});

/** Options as a request says them: 0 and 1, numbers and names. What is not of the options is left to others. */
export function parseOptions(
  said: ReadonlyMap<string, string>,
  usual: ExportOptions
): Result<ExportOptions, { readonly message: string }> {
  const read = Object.entries(usual).map(([name, value]) => {
    const raw = said.get(name);
    if (raw === undefined) return [name, value] as const;
    return [
      name,
      typeof value === 'boolean' ? raw !== '0' && raw !== 'false' : typeof value === 'number' ? Number(raw) : raw
    ] as const;
  });
  const parsed = exportOptionsSchema.safeParse(Object.fromEntries(read));
  if (parsed.success) return ok(parsed.data);
  const [issue] = parsed.error.issues;
  return fail({ message: `${issue!.path.join('.')}: ${issue!.message}` });
}

/** The same the other way: what differs from what is usual. */
export const formatOptions = (options: ExportOptions, usual: ExportOptions): ReadonlyMap<string, string> =>
  new Map(
    Object.entries(options)
      .filter(([name, value]) => value !== usual[name as OptionName])
      .map(([name, value]) => [name, typeof value === 'boolean' ? String(Number(value)) : String(value)])
  );

/** What a format is given beside the track. */
export type WriteOptions = ExportOptions & {
  /** Of the recording. */
  readonly title: string;
  readonly durationMs: number;
};

/** `01:00:00:12` on a clock: the pictures are a part of its second. */
function clockMs({ startTimecode, frameRate }: Pick<ExportOptions, 'startTimecode' | 'frameRate'>): number {
  const [hours = 0, minutes = 0, seconds = 0, pictures = 0] = startTimecode.split(/[:;]/).map(Number);
  return wholeMs(((hours * 60 + minutes) * 60 + seconds) * 1000 + (pictures * 1000) / FRAME_RATES[frameRate]);
}

/**
 * The track as a file is to say it: without sounds or formatting where they are not wanted, at other times.
 * `countsPictures`: the format knows time codes, and is given the one that it begins with.
 */
export function exported(
  track: Track,
  options: ExportOptions,
  { countsPictures = false }: { readonly countsPictures?: boolean | undefined } = {}
): Track {
  const { sounds, formatting } = options;
  const offsetMs = options.offsetMs + (countsPictures ? 0 : clockMs(options));
  let { words, cues } = track;
  if (!formatting) words = words.map((word) => (word.marks.length === 0 ? word : { ...word, marks: [] }));
  if (!sounds) {
    const silent = new Set(words.filter(({ kind }) => kind === 'sound').map(({ id }) => id));
    words = words.map((word) => (silent.has(word.id) ? { ...word, shown: false } : word));
    cues = cues.filter(({ wordIds }) => wordIds.length === 0 || wordIds.some((id) => !silent.has(id)));
  }
  if (offsetMs !== 0) {
    const at = <T extends { readonly startMs: number; readonly endMs: number }>(one: T): T => ({
      ...one,
      startMs: wholeMs(Math.max(0, one.startMs + offsetMs)),
      endMs: wholeMs(Math.max(0, one.endMs + offsetMs))
    });
    words = words.map(at);
    // Starts that meet at 0 may be in another order there.
    cues = cues
      .filter(({ endMs }) => endMs + offsetMs > 0)
      .map((cue): Cue => at(cue))
      .toSorted(compareCues);
  }
  return words === track.words && cues === track.cues ? track : { ...track, words, cues };
}

/** The bytes of a file of text. */
export function encodeText(text: string, { byteOrderMark, crlf }: ExportOptions): Uint8Array {
  return new TextEncoder().encode(`${byteOrderMark ? '\ufeff' : ''}${crlf ? text.replaceAll('\n', '\r\n') : text}`);
}
