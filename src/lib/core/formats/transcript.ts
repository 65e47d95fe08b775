/** A track as text to be read: paragraphs, with who speaks and when. */
import { formatPaperHtml, type Paper, type Part } from '../paper';
import { formatClock, type Ms } from '../time';
import { joinWords, type Track, type Word } from '../track';

export interface TranscriptParagraph {
  readonly startMs: Ms;
  /** Named where it is another than that of the paragraph before; `null` for the same, or nobody. */
  readonly speaker: string | null;
  readonly text: string;
  /** A described sound alone. */
  readonly isSound: boolean;
}

export interface TranscriptOptions {
  readonly times: boolean;
  readonly speakers: boolean;
}

/** What is shown, paragraph by paragraph; a change of speaker begins one. */
export function transcriptOf(track: Track): readonly TranscriptParagraph[] {
  const names = new Map(track.speakers.map((speaker) => [speaker.id, speaker.name]));
  const runs: Word[][] = [];
  let starts = true;
  for (const word of track.words) {
    starts ||= word.startsParagraph;
    if (!word.shown || word.kind === 'hole') continue;
    const run = runs.at(-1);
    if (run === undefined || starts || run[0]!.speakerId !== word.speakerId) runs.push([word]);
    else run.push(word);
    starts = false;
  }
  let last: string | null = null;
  return runs.map((run) => {
    const [first] = run as [Word];
    const isSound = run.every((word) => word.kind === 'sound');
    const speaker = isSound || first.speakerId === null ? null : (names.get(first.speakerId) ?? null);
    const isNew = speaker !== last;
    if (!isSound) last = speaker;
    return { startMs: first.startMs, speaker: isNew ? speaker : null, text: joinWords(run), isSound };
  });
}

/** Plain text: a blank line between paragraphs, `0:57 Ines Calder: …` where times and speakers are wanted. */
export function formatTranscriptText(track: Track, { times, speakers }: TranscriptOptions): string {
  const paragraphs = transcriptOf(track).map(({ startMs, speaker, text }) => {
    const head = [times ? formatClock(startMs) : '', speakers && speaker !== null ? `${speaker}:` : ''];
    return [...head, text].filter((part) => part !== '').join(' ');
  });
  return paragraphs.length === 0 ? '' : `${paragraphs.join('\n\n')}\n`;
}

/** The transcript as a document to be read or printed. */
export function transcriptPaper(
  track: Track,
  { title, times, speakers }: TranscriptOptions & { readonly title: string }
): Paper {
  const parts = transcriptOf(track).flatMap(({ startMs, speaker, text, isSound }): readonly Part[] => [
    ...(speakers && speaker !== null ? [{ kind: 'heading', level: 2, text: speaker } as const] : []),
    { kind: 'paragraph', text, startMs: times ? startMs : null, tone: isSound ? 'sound' : 'plain' }
  ]);
  return { title, language: track.language, parts };
}

export const formatTranscriptHtml = (track: Track, options: TranscriptOptions & { readonly title: string }): string =>
  formatPaperHtml(transcriptPaper(track, options));
