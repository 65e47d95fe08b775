/** A track as text to be read: paragraphs, with who speaks and when. */
import { formatClock, type Ms } from '../time';
import { escapeMarkup, joinWords, type Track, type Word } from '../track';

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

const STYLE = `
  body { max-width: 42rem; margin: 3rem auto; padding: 0 1rem; font: 1.1rem/1.6 'Atkinson Hyperlegible Next', system-ui, sans-serif; color: #1f1f1a; background: #fffef8; }
  h1 { font-size: 1.5rem; line-height: 1.3; }
  section { display: grid; grid-template-columns: 4.5rem 1fr; gap: 0 1rem; }
  time { color: #5a5a50; font-variant-numeric: tabular-nums; }
  h2 { grid-column: 2; margin: 1rem 0 0; font-size: 1rem; }
  p { grid-column: 2; margin: 0 0 0.8rem; }
  time + p { margin-top: 0; }
  .sound { font-style: italic; color: #5a5a50; }
  @media (prefers-color-scheme: dark) { body { color: #ecebe2; background: #1d1e1a; } time, .sound { color: #b3b2a6; } }
  @media print { body { margin: 0; font-size: 11pt; background: none; color: #000; } p { orphans: 2; widows: 2; } }`;

/** A page of its own (HTML Living Standard), with no part of it elsewhere; times as `<time>` durations. */
export function formatTranscriptHtml(
  track: Track,
  { title, times, speakers }: TranscriptOptions & { readonly title: string }
): string {
  const paragraphs = transcriptOf(track).map(({ startMs, speaker, text, isSound }) => {
    const name = speakers && speaker !== null ? `<h2>${escapeMarkup(speaker)}</h2>\n` : '';
    const seconds = (startMs / 1000).toFixed(3);
    const time = times ? `<time datetime="PT${seconds}S">${formatClock(startMs)}</time>` : '';
    return `${name}${time}<p${isSound ? ' class="sound"' : ''} dir="auto">${escapeMarkup(text)}</p>`;
  });
  const language = escapeMarkup(track.language).replaceAll('"', '&quot;');
  return `<!doctype html>
<html lang="${language}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escapeMarkup(title)}</title>
<style>${STYLE}
</style>
</head>
<body>
<h1>${escapeMarkup(title)}</h1>
<section>
${paragraphs.join('\n')}
</section>
</body>
</html>
`;
}
