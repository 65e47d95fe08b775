/**
 * Every format there is: import, export, the interface and the API list what stands here. A writer of text stands here
 * too; one that needs a library of the server's is found there by its id (`server/formats`).
 */
import type { Track } from '../track';
import type { ParsedCaptions } from './caption-file';
import { formatSrt, parseSrt } from './srt';
import { formatTranscriptHtml, formatTranscriptText, type TranscriptOptions } from './transcript';
import { formatWebVtt, parseWebVtt } from './webvtt';

/** What may be said with a request for a file, each 0 or 1. */
export type FormatOption = keyof TranscriptOptions;

export interface Format {
  readonly id: string;
  readonly name: string;
  /** Without the dot. */
  readonly extension: string;
  readonly mime: string;
  readonly kind: 'captions' | 'transcript';
  /** What it is for, and what it cannot say, in a few words. */
  readonly about: string;
  readonly options: readonly FormatOption[];
  /** What the options are where nothing is said. */
  readonly defaults: TranscriptOptions;
  /** Whether the text is a file of this format, by its first lines alone. */
  readonly isIt?: (content: string) => boolean;
  readonly read?: (content: string) => ParsedCaptions;
  /** Left out where it is no text, or takes a library of the server's. */
  readonly write?: (track: Track, options: TranscriptOptions & { readonly title: string }) => string;
}

const PLAIN = { times: true, speakers: true } as const;
const TRANSCRIPT = { kind: 'transcript', options: ['times', 'speakers'], defaults: PLAIN } as const;

const formats = [
  {
    id: 'vtt',
    name: 'WebVTT',
    extension: 'vtt',
    mime: 'text/vtt; charset=utf-8',
    kind: 'captions',
    about: 'for players on web pages: carries speakers and places',
    options: [],
    defaults: PLAIN,
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
    options: [],
    defaults: PLAIN,
    isIt: (content) => /^\ufeff?\s*\d+\s*\r?\n\s*\d+:\d+/.test(content),
    read: parseSrt,
    write: formatSrt
  },
  {
    ...TRANSCRIPT,
    id: 'txt',
    name: 'Text',
    extension: 'txt',
    mime: 'text/plain; charset=utf-8',
    about: 'to be read or pasted',
    // Most often wanted as text alone.
    defaults: { times: false, speakers: true },
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

/** The format of a captions file, by what it says, else by the ending of its name; `null` where neither tells. */
export function formatOfFile(name: string, content: string): (Format & { readonly id: FormatId }) | null {
  const readable = FORMATS.filter(({ read }) => read !== undefined);
  const ending = name.toLowerCase().split('.').at(-1);
  return readable.find(({ isIt }) => isIt?.(content)) ?? readable.find(({ extension }) => extension === ending) ?? null;
}
