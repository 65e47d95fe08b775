/** A trim for programs that cut: OpenTimelineIO, an edit decision list, and what is kept as a table with its text. */
import Papa from 'papaparse';
import {
  formatEvents,
  MOST_EVENTS,
  otio,
  pictureCount,
  reelOf,
  type Channels,
  type EditEvent,
  type ExportOptions,
  type PictureCount
} from '../formats';
import { plural } from '../plural';
import { formatClock } from '../time';
import { joinWords, type Track } from '../track';
import { mapOf, type LaidPiece } from './map';
import type { Trim } from './trim';

export const CUT_LIST_FORMATS = ['otio', 'edl', 'csv'] as const;
export type CutListFormat = (typeof CUT_LIST_FORMATS)[number];

export interface CutListOptions extends Pick<ExportOptions, 'frameRate' | 'dropFrame' | 'startTimecode'> {
  /** What the medium is called there. */
  readonly title: string;
  readonly hasPicture: boolean;
  readonly channels: number;
  /** Whose words stand beside what is kept; `null`: none. */
  readonly track: Track | null;
}

/** A piece in pictures: trimmed edges are rounded, so that nothing drifts; it is as long as what lies between them. */
interface CountedPiece {
  readonly laid: LaidPiece;
  readonly record: readonly [number, number];
  /** `null` where nothing of the medium is played. */
  readonly source: readonly [number, number] | null;
}

function countedPieces(trim: Trim, { rate, from }: PictureCount): CountedPiece[] {
  const pictures = (ms: number): number => Math.round((ms * rate) / 1000);
  return mapOf(trim).laid.flatMap((laid) => {
    const record = [pictures(laid.startMs), pictures(laid.endMs)] as const;
    // What is shorter than a picture is in none of them.
    if (record[1] <= record[0]) return [];
    const start = laid.plays === 'room' || laid.fromMs === null ? null : from + pictures(laid.fromMs);
    return [{ laid, record, source: start === null ? null : ([start, start + record[1] - record[0]] as const) }];
  });
}

const gainOf = ({ piece }: LaidPiece): number => (piece.kind === 'stretch' ? piece.gainDb : 0);

export function formatCutList(trim: Trim, format: CutListFormat, options: CutListOptions): string {
  switch (format) {
    case 'otio':
      return formatOtioCuts(trim, options);
    case 'edl':
      return formatEdlCuts(trim, options);
    case 'csv':
      return formatCsvCuts(trim, options);
  }
}

function formatOtioCuts(trim: Trim, options: CutListOptions): string {
  const count = pictureCount(options);
  const { rate, from } = count;
  const pieces = countedPieces(trim, count);
  const available = otio.range(from, Math.max(1, Math.round((trim.recordedMs * rate) / 1000)), rate);
  const medium = { name: options.title, available };
  const clipOf = ({ laid, record, source }: CountedPiece, isSound: boolean): otio.Item => {
    const isHeard = source !== null && !(isSound && laid.plays === 'nothing');
    if (!isHeard) return otio.gap(record[1] - record[0], rate);
    const gainDb = gainOf(laid);
    return otio.clip({
      name: textOf(laid, options.track) || options.title,
      source: otio.range(source[0], source[1] - source[0], rate),
      medium,
      metadata: isSound && gainDb !== 0 ? { gain: { db: gainDb } } : {}
    });
  };
  const trackOf = (kind: 'Video' | 'Audio') =>
    otio.track(
      kind === 'Video' ? 'Picture' : 'Sound',
      kind,
      pieces.map((piece) => clipOf(piece, kind === 'Audio'))
    );
  const tracks = [...(options.hasPicture ? [trackOf('Video')] : []), trackOf('Audio')];
  return `${JSON.stringify(otio.timeline(trim.title, { pictures: from, rate }, tracks), null, 2)}\n`;
}

function formatEdlCuts(trim: Trim, options: CutListOptions): string {
  const count = pictureCount(options);
  const sound: Channels = options.channels > 1 ? 'AA' : 'A';
  const all: Channels = !options.hasPicture ? sound : options.channels > 1 ? 'AA/V' : 'B';
  const reel = reelOf(options.title);
  const events = countedPieces(trim, count).flatMap(({ laid, record, source }): EditEvent[] => {
    const at = [count.from + record[0], count.from + record[1]] as const;
    const isSilent = laid.plays === 'nothing';
    if (source === null || (isSilent && !options.hasPicture))
      return [{ reel: 'BL', channels: all, source: [0, record[1] - record[0]], record: at, comments: [] }];
    const text = textOf(laid, options.track);
    const gainDb = gainOf(laid);
    return [
      {
        ...{ reel, source, record: at },
        channels: isSilent ? 'V' : all,
        comments: [
          `FROM CLIP NAME: ${options.title}`,
          ...(text === '' ? [] : [`COMMENT: ${text}`]),
          ...(gainDb === 0 ? [] : [`COMMENT: LEVEL ${gainDb} DB`])
        ]
      }
    ];
  });
  return formatEvents(trim.title, events, count);
}

/** What a cut list cannot say. */
export interface CutListRemark {
  readonly code:
    | 'pauses_empty'
    | 'gain_as_comment'
    | 'gain_as_metadata'
    | 'silence_as_picture'
    | 'shorter_than_picture'
    | 'too_many_events'
    | 'fades_left_out'
    | 'times_rounded';
  readonly message: string;
}

/** Told before it is taken. */
export function cutListRemarks(trim: Trim, format: CutListFormat, options: CutListOptions): readonly CutListRemark[] {
  if (format === 'csv') return [];
  const { laid } = mapOf(trim);
  const count = (isIt: (one: LaidPiece) => boolean): number => laid.filter(isIt).length;
  const pauses = count(({ plays }) => plays === 'room');
  const gains = count((one) => gainOf(one) !== 0);
  const silent = count(({ plays }) => plays === 'nothing');
  const pieces = countedPieces(trim, pictureCount(options));
  const tooShort = laid.length - pieces.length;
  const isEdl = format === 'edl';
  const remarks: readonly (CutListRemark | false)[] = [
    pauses > 0 && {
      code: 'pauses_empty',
      message: `The sound of the room in ${plural(pauses, 'pause')} is not in a cut list: ${isEdl ? 'they are black' : 'they are gaps'} there.`
    },
    gains > 0 && {
      code: isEdl ? 'gain_as_comment' : 'gain_as_metadata',
      message: `Levels of ${plural(gains, 'piece')} stand ${isEdl ? 'in comments' : 'in metadata'} only; programs do not set them by themselves.`
    },
    isEdl &&
      silent > 0 &&
      options.hasPicture && {
        code: 'silence_as_picture',
        message: `${plural(silent, 'silenced piece')} ${silent === 1 ? 'is an event' : 'are events'} of the picture alone.`
      },
    tooShort > 0 && {
      code: 'shorter_than_picture',
      message: `${plural(tooShort, 'piece')} shorter than a picture ${tooShort === 1 ? 'is' : 'are'} left out.`
    },
    isEdl &&
      pieces.length > MOST_EVENTS && {
        code: 'too_many_events',
        message: `Older programs stop at event ${MOST_EVENTS}; this list has ${pieces.length}.`
      },
    { code: 'fades_left_out', message: 'Crossfades of a few milliseconds are left to the program that cuts.' },
    { code: 'times_rounded', message: `Times are whole pictures of ${options.frameRate} a second.` }
  ];
  return remarks.filter((remark) => remark !== false);
}

/** What is said in a piece, by the words whose middle lies in it. */
function textOf({ plays, fromMs, startMs, endMs }: LaidPiece, track: Track | null): string {
  if (track === null || plays !== 'sound' || fromMs === null) return '';
  const toMs = fromMs + endMs - startMs;
  const isIn = (middleMs: number): boolean => middleMs >= fromMs && middleMs < toMs;
  return joinWords(track.words.filter((word) => word.shown && isIn((word.startMs + word.endMs) / 2)));
}

const CSV_HEAD = [
  'number',
  'what',
  'recorded_from',
  'recorded_to',
  'trimmed_from',
  'trimmed_to',
  'length_ms',
  'gain_db',
  'text'
];
const WHAT = { sound: 'kept', nothing: 'silenced', room: 'pause' } as const;

function formatCsvCuts(trim: Trim, { track }: CutListOptions): string {
  const clock = (ms: number): string => formatClock(ms, 3);
  const rows = mapOf(trim).laid.map((laid, at) => {
    const { fromMs, startMs, endMs, plays } = laid;
    const recorded = fromMs === null ? ['', ''] : [clock(fromMs), clock(fromMs + endMs - startMs)];
    const text = textOf(laid, track);
    // A leading sign would be taken for a formula.
    const safe = /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
    return [at + 1, WHAT[plays], ...recorded, clock(startMs), clock(endMs), endMs - startMs, gainOf(laid), safe];
  });
  return `${Papa.unparse([CSV_HEAD, ...rows], { newline: '\r\n' })}\r\n`;
}
