/** Captions made elsewhere become a track: words with estimated times, speakers from voices, every repair a problem. */
import type { TrackId } from '../id';
import { formatClock, MOST_MS, type Span } from '../time';
import {
  makeSpeaker,
  compareCues,
  HOUSE_RULES,
  liftSign,
  makeCue,
  makeTrack,
  makeWord,
  shareTime,
  tokenize,
  type Cue,
  type Speaker,
  type Track,
  type Word
} from '../track';
import { readableMs, type FileCue, type ParsedCaptions, type ParseProblem } from './caption-file';

export interface ImportOptions {
  readonly trackId: TrackId;
  readonly recordingId: string;
  readonly language: string;
  readonly title: string;
  /** Names and phrases to expect; none where left out. */
  readonly names?: readonly string[];
  readonly recordingDurationMs: number;
  readonly mint: () => string;
}

export function trackFromFile(
  parsed: ParsedCaptions,
  options: ImportOptions
): { readonly track: Track; readonly problems: readonly ParseProblem[] } {
  const problems: ParseProblem[] = [...parsed.problems];
  const speakers = new Map<string, Speaker>();
  const shared = parsed.cues.filter(({ lines }) => voicesOf(lines).length > 1);
  const areSigned = shared.every(({ lines }) => withoutSigns(lines) !== null);
  const made: { cue: Cue; words: Word[] }[] = [];
  let lastStartMs = 0;
  parsed.cues.forEach((source, at) => {
    if (source.startMs < lastStartMs) {
      problems.push({
        code: 'unsorted',
        line: source.line,
        message: `The cue at ${formatClock(source.startMs)} starts before the one ahead of it in the file; put in order.`,
        outcome: 'repaired'
      });
    }
    lastStartMs = source.startMs;
    const { startMs, endMs } = repairTimes(source, parsed.cues[at + 1], problems);
    const words: Word[] = [];
    const said: (Span | null)[] = [];
    const lineStarts: string[] = [];
    for (const line of areSigned ? (withoutSigns(source.lines) ?? source.lines) : source.lines) {
      const tokens = tokenize(line.markup, options.language);
      // Scripts without spaces are parted otherwise than the file does.
      const times = line.wordTimes?.length === tokens.length ? line.wordTimes : null;
      said.push(...tokens.map((_, index) => times?.[index] ?? null));
      tokens.forEach((token, index) => {
        const id = options.mint();
        if (index === 0 && words.length > 0) lineStarts.push(id);
        words.push(
          makeWord({
            id,
            text: token.text,
            startMs,
            endMs: startMs,
            timing: 'estimated',
            speakerId: line.speaker === null ? null : speakerFor(line.speaker, speakers, options.mint).id,
            marks: token.marks,
            spaceBefore: index === 0 || token.spaceBefore
          })
        );
      });
    }
    const shares = shareTime(
      startMs,
      endMs,
      words.map((word) => word.text)
    );
    made.push({
      cue: makeCue({
        id: options.mint(),
        startMs,
        endMs,
        wordIds: words.map((word) => word.id),
        lineStarts,
        placement: source.placement,
        carried: source.carried
      }),
      words: timed(
        words.map((word, index) => ({ ...word, ...shares[index]! })),
        said
      )
    });
  });
  made.sort((a, b) => compareCues(a.cue, b.cue));
  noteOverlapsAndEnd(
    made.map(({ cue }) => cue),
    parsed.cues,
    options.recordingDurationMs,
    problems
  );
  return {
    track: makeTrack({
      id: options.trackId,
      recordingId: options.recordingId,
      language: options.language,
      title: options.title,
      names: options.names ?? [],
      words: startParagraphs(made.flatMap(({ words }) => words)),
      cues: made.map(({ cue }) => cue),
      speakers: [...speakers.values()],
      carried: parsed.carried,
      // Signs that nobody wrote are not shown.
      ...(!areSigned && { rules: { ...HOUSE_RULES, sharedCues: 'plain' } })
    }),
    problems: problems.sort((a, b) => a.line - b.line)
  };
}

/** Words at the times that the file says of each; as they were where those are in no order. */
function timed(words: readonly Word[], said: readonly (Span | null)[]): Word[] {
  const placed = words.map((word, at): Word => {
    const span = said[at];
    return span == null ? word : { ...word, ...span, timing: 'fitted' };
  });
  const areInOrder = placed.every((word, at) => at === 0 || placed[at - 1]!.startMs <= word.startMs);
  return areInOrder ? placed : [...words];
}

const voicesOf = (lines: FileCue['lines']): readonly string[] => [
  ...new Set(lines.flatMap(({ speaker }) => speaker ?? []))
];

/** Lines of several voices without the sign that each begins with, which the rules make; `null` where one has no sign. */
function withoutSigns(lines: FileCue['lines']): FileCue['lines'] | null {
  const names = voicesOf(lines);
  if (names.length < 2) return null;
  // What has no voice goes on with the one before, at the start with the first there is.
  let [voice] = names;
  let isSigned = true;
  const lifted = lines.map((line, at) => {
    if (at > 0 && (line.speaker === null || line.speaker === voice)) return line;
    voice = line.speaker ?? voice;
    const markup = liftSign(line.markup, names);
    isSigned &&= markup !== line.markup;
    return { ...line, markup };
  });
  return isSigned ? lifted : null;
}

function speakerFor(name: string, speakers: Map<string, Speaker>, mint: () => string): Speaker {
  const known = speakers.get(name);
  if (known !== undefined) return known;
  const speaker = makeSpeaker(mint(), name.slice(0, 200));
  speakers.set(name, speaker);
  return speaker;
}

function repairTimes(
  cue: FileCue,
  next: FileCue | undefined,
  problems: ParseProblem[]
): { startMs: number; endMs: number } {
  const startMs = Math.min(cue.startMs, MOST_MS - 1000);
  if (cue.endMs > startMs) return { startMs, endMs: Math.min(cue.endMs, MOST_MS) };
  const wanted = startMs + readableMs(cue.lines);
  const endMs = next !== undefined && next.startMs > startMs ? Math.min(wanted, next.startMs) : wanted;
  const isBackward = cue.endMs < cue.startMs;
  problems.push({
    code: isBackward ? 'backward' : 'zero_length',
    line: cue.line,
    message: `The cue at ${formatClock(cue.startMs, 3)} ${isBackward ? 'ends before it starts' : 'has no length'}; it now lasts ${((endMs - startMs) / 1000).toFixed(2)} s.`,
    outcome: 'repaired'
  });
  return { startMs, endMs };
}

function noteOverlapsAndEnd(
  cues: readonly Cue[],
  sources: readonly FileCue[],
  durationMs: number,
  problems: ParseProblem[]
): void {
  const lineAt = new Map(sources.map((source) => [source.startMs, source.line]));
  let latest: Cue | undefined;
  for (const cue of cues) {
    const line = lineAt.get(cue.startMs) ?? 1;
    if (latest !== undefined && cue.startMs < latest.endMs) {
      problems.push({
        code: 'overlap',
        line,
        message: `The cue at ${formatClock(cue.startMs, 3)} starts before the one at ${formatClock(latest.startMs, 3)} ends; kept.`,
        outcome: 'kept'
      });
    }
    if (latest === undefined || cue.endMs > latest.endMs) latest = cue;
    if (cue.endMs > durationMs && durationMs > 0) {
      problems.push({
        code: 'past_end',
        line,
        message: `The cue at ${formatClock(cue.startMs, 3)} lies past the recording’s end; kept.`,
        outcome: 'kept'
      });
    }
  }
}

/** Paragraphs of the page: a new speaker, a described sound, a long pause, or a pause after a sentence that has grown long. */
export function startParagraphs(words: readonly Word[]): readonly Word[] {
  let length = 0;
  return words.map((word, at) => {
    const before = words[at - 1];
    const pauseMs = before === undefined ? 0 : word.startMs - before.endMs;
    const isSentence = before !== undefined && /[.!?…]["'”’)]*$/u.test(before.text);
    const starts =
      before === undefined ||
      before.speakerId !== word.speakerId ||
      before.kind !== word.kind ||
      pauseMs > 2500 ||
      (isSentence && (pauseMs > 1200 || length > 60)) ||
      length > 140;
    length = starts ? 1 : length + 1;
    return word.startsParagraph === starts ? word : { ...word, startsParagraph: starts };
  });
}
