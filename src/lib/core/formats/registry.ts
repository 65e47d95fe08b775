/**
 * Every format there is: import, export, the interface and the API list what stands here. A writer in the core stands
 * here too; one that needs a library of the server's is found there by its id (`server/formats`).
 */
import type { Track } from '../track';
import type { ParsedCaptions } from './caption-file';
import { formatCsv, parseCsv } from './csv';
import { cannotSayEdl, formatEdl } from './edl';
import { formatJson } from './json';
import type { ExportOptions, OptionName, WriteOptions } from './options';
import { formatOtio } from './otio';
import { NOTHING_LOST, type Carries, type Remark } from './remarks';
import { cannotSayScc, formatScc, isScc, parseScc } from './scc';
import { formatSrt, parseSrt } from './srt';
import { cannotSayStl, formatStl, isStl, parseStl } from './stl';
import { formatTranscriptHtml, formatTranscriptText } from './transcript';
import { formatTtml, parseTtml } from './ttml';
import { formatWebVtt, parseWebVtt } from './webvtt';

export interface Format {
  readonly id: string;
  readonly name: string;
  /** Without the dot. */
  readonly extension: string;
  readonly mime: string;
  /** `editing`: for programs that cut; `data`: for others, not for players. */
  readonly kind: 'captions' | 'transcript' | 'editing' | 'data';
  /** It says times as pictures are counted, from a time code on. */
  readonly countsPictures?: boolean;
  /** What it is for, and what it cannot say, in a few words. */
  readonly about: string;
  readonly options: readonly OptionName[];
  /** Where they are others than usual. */
  readonly defaults?: Partial<ExportOptions>;
  /** What of a look it carries; transcripts show no captions. */
  readonly carries?: Carries;
  /** Whether the text is a file of this format, by its first lines alone. */
  readonly isIt?: (content: string) => boolean;
  /** `whole`: a track as it is, by `parseJson`; `bytes`: a file that is no text. */
  readonly read?:
    ((content: string) => ParsedCaptions) | 'whole' | { readonly bytes: (bytes: Uint8Array) => ParsedCaptions };
  /** Besides looks. */
  readonly cannotSay?: (track: Track, options: WriteOptions) => readonly Remark[];
  /** Left out where it takes a library of the server's. */
  readonly write?: (track: Track, options: WriteOptions) => string | Uint8Array;
}

const TIMES = ['offsetMs', 'startTimecode'] as const;
const FILE = [...TIMES, 'byteOrderMark', 'crlf'] as const;
const PICTURES = ['offsetMs', 'frameRate', 'dropFrame', 'startTimecode'] as const;
const CAPTIONS = ['sounds', 'formatting'] as const;
const TRANSCRIPT = { kind: 'transcript', options: ['times', 'speakers', 'sounds'] } as const;
const isTtml = (content: string): boolean =>
  /^\ufeff?\s*(?:<\?xml[^>]*>|<!--[^]{0,2000}?-->|\s)*<(?:[\w-]+:)?tt[\s>]/.test(content);

const formats = [
  {
    id: 'vtt',
    name: 'WebVTT',
    extension: 'vtt',
    mime: 'text/vtt; charset=utf-8',
    kind: 'captions',
    about: 'for players on web pages: carries speakers and places',
    options: [...CAPTIONS, 'speakers', ...FILE],
    carries: { values: ['colours', 'alignment'], places: true, ownPlaces: true },
    isIt: (content) => /^\ufeff?WEBVTT/.test(content),
    read: parseWebVtt,
    write: formatWebVtt
  },
  {
    id: 'srt',
    name: 'SRT',
    extension: 'srt',
    mime: 'application/x-subrip; charset=utf-8',
    kind: 'captions',
    about: 'for nearly everything else: text and times only',
    options: [...CAPTIONS, ...FILE],
    carries: { values: [], places: false, ownPlaces: false },
    isIt: (content) => /^\ufeff?\s*\d+\s*\r?\n\s*\d+:\d+/.test(content),
    read: parseSrt,
    write: formatSrt
  },
  {
    id: 'ttml',
    name: 'TTML',
    extension: 'ttml',
    mime: 'application/ttml+xml; charset=utf-8',
    kind: 'captions',
    about: 'IMSC 1.1 Text, for streaming services: carries speakers, places and colours',
    options: [...CAPTIONS, 'speakers', ...TIMES],
    carries: { values: ['the size', 'outlines', 'colours', 'alignment'], places: true, ownPlaces: true },
    isIt: isTtml,
    read: parseTtml,
    write: (track, options) => formatTtml(track, options, 'imsc')
  },
  {
    id: 'ebu-tt-d',
    name: 'EBU-TT-D',
    extension: 'xml',
    mime: 'application/ttml+xml; charset=utf-8',
    kind: 'captions',
    about: 'for European broadcasters on the net: as TTML, by the EBU’s profile',
    options: [...CAPTIONS, 'speakers', ...TIMES],
    carries: { values: ['the size', 'colours', 'alignment'], places: true, ownPlaces: true },
    read: parseTtml,
    write: (track, options) => formatTtml(track, options, 'ebu')
  },
  {
    id: 'stl',
    name: 'EBU STL',
    extension: 'stl',
    mime: 'application/octet-stream',
    kind: 'captions',
    about: 'for broadcasters’ own machines: one alphabet, whole pictures',
    countsPictures: true,
    options: [...CAPTIONS, 'offsetMs', 'frameRate', 'startTimecode'],
    carries: { values: ['alignment'], places: true, ownPlaces: true },
    read: { bytes: parseStl },
    write: formatStl,
    cannotSay: cannotSayStl
  },
  {
    id: 'scc',
    name: 'SCC',
    extension: 'scc',
    mime: 'text/plain; charset=us-ascii',
    kind: 'captions',
    about: 'for North American broadcasters: line 21, in 32 columns',
    countsPictures: true,
    options: [...CAPTIONS, 'offsetMs', 'dropFrame', 'startTimecode', 'crlf'],
    carries: { values: ['alignment'], places: true, ownPlaces: true },
    isIt: isScc,
    read: parseScc,
    write: formatScc,
    cannotSay: cannotSayScc
  },
  {
    id: 'otio',
    name: 'OpenTimelineIO',
    extension: 'otio',
    mime: 'application/json',
    kind: 'editing',
    countsPictures: true,
    about: 'a timeline: cues as markers of the recording, and as clips',
    options: ['sounds', 'speakers', ...PICTURES],
    carries: { values: [], places: false, ownPlaces: false },
    write: formatOtio
  },
  {
    id: 'edl',
    name: 'EDL',
    extension: 'edl',
    mime: 'text/plain; charset=utf-8',
    kind: 'editing',
    countsPictures: true,
    about: 'an event for each cue, its text in comments',
    options: ['sounds', ...PICTURES],
    carries: { values: [], places: false, ownPlaces: false },
    write: formatEdl,
    cannotSay: cannotSayEdl
  },
  {
    id: 'csv',
    name: 'CSV',
    extension: 'csv',
    mime: 'text/csv; charset=utf-8',
    kind: 'data',
    about: 'a row a cue, for spreadsheets and editing programs',
    options: [...CAPTIONS, 'speakers', ...TIMES, 'byteOrderMark'],
    carries: { values: [], places: false, ownPlaces: false },
    read: parseCsv,
    write: formatCsv
  },
  {
    id: 'json',
    name: 'JSON',
    extension: 'json',
    mime: 'application/json',
    kind: 'data',
    about: 'the track whole: words with their times, cues, speakers and looks',
    options: [],
    carries: NOTHING_LOST,
    isIt: (content) => /^\ufeff?\s*\{\s*"vineTapTrack"\s*:/.test(content),
    read: 'whole',
    write: formatJson
  },
  {
    ...TRANSCRIPT,
    id: 'txt',
    name: 'Text',
    extension: 'txt',
    mime: 'text/plain; charset=utf-8',
    about: 'to be read or pasted',
    options: [...TRANSCRIPT.options, 'byteOrderMark', 'crlf'],
    // Most often wanted as text alone.
    defaults: { times: false },
    write: formatTranscriptText
  },
  {
    ...TRANSCRIPT,
    id: 'html',
    name: 'Web page',
    extension: 'html',
    mime: 'text/html; charset=utf-8',
    about: 'to be put on a site',
    write: formatTranscriptHtml
  },
  {
    ...TRANSCRIPT,
    id: 'docx',
    name: 'DOCX',
    extension: 'docx',
    mime: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
    about: 'to be worked on in a word processor'
  },
  { ...TRANSCRIPT, id: 'pdf', name: 'PDF', extension: 'pdf', mime: 'application/pdf', about: 'to be printed' }
] as const satisfies readonly Format[];

export type FormatId = (typeof formats)[number]['id'];
export const FORMATS: readonly (Format & { readonly id: FormatId })[] = formats;

export const findFormat = (id: string): (Format & { readonly id: FormatId }) | undefined =>
  FORMATS.find((format) => format.id === id);

/** The format of a file that is no text; `null` where its bytes do not tell. */
export const formatOfBytes = (bytes: Uint8Array): (Format & { readonly id: FormatId }) | null =>
  isStl(bytes) ? findFormat('stl')! : null;

/** The format of a captions file, by what it says, else by the ending of its name; `null` where neither tells. */
export function formatOfFile(name: string, content: string): (Format & { readonly id: FormatId }) | null {
  const readable = FORMATS.filter(({ read }) => read !== undefined);
  const ending = name.toLowerCase().split('.').at(-1);
  return readable.find(({ isIt }) => isIt?.(content)) ?? readable.find(({ extension }) => extension === ending) ?? null;
}
