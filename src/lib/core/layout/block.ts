/** What of a cue is drawn: its lines as they are shown, each stretch with the look that it has. */
import { lineWords, lookOfCue, lookOfVoice, type Cue, type Look, type MarkKind, type Track, type Word } from '../track';

/** What letters look like, apart from their size. */
export interface SpanStyle {
  readonly face: string;
  readonly weight: number;
  readonly italic: boolean;
  readonly underline: boolean;
  readonly letterSpacingEm: number;
  readonly color: string;
  readonly outline: Look['outline'];
  readonly shadow: Look['shadow'];
}

/** A stretch of text of one word and one style; a space before the word belongs to it. */
export interface TextSpan {
  readonly text: string;
  /** The how manieth shown word of the cue. */
  readonly word: number;
  readonly style: SpanStyle;
}

export interface Block {
  readonly lines: readonly (readonly TextSpan[])[];
  /** Of the cue as a whole: size, box, place. */
  readonly look: Look;
  /** BCP 47. */
  readonly language: string;
}

/** Bold, where the letters are as heavy as they are. */
const BOLDER = 200;
const LEAST_BOLD = 700;

export function blockOf(track: Track, cue: Cue): Block {
  const look = lookOfCue(track, cue);
  const voices = new Map<string | null, Look>();
  const voiceOf = (speakerId: string | null): Look => {
    const known = voices.get(speakerId) ?? lookOfVoice(track, cue, speakerId);
    voices.set(speakerId, known);
    return known;
  };
  let word = 0;
  const lines = lineWords(track, cue).map((words) =>
    words.flatMap((one, at) =>
      spansOf(one, { word: word++, isFirst: at === 0, look: voiceOf(one.speakerId), language: track.language })
    )
  );
  return { lines, look, language: track.language };
}

function spansOf(
  { text, marks, spaceBefore }: Word,
  {
    word,
    isFirst,
    look,
    language
  }: { readonly word: number; readonly isFirst: boolean; readonly look: Look; readonly language: string }
): readonly TextSpan[] {
  const edges = new Set([0, text.length, ...marks.flatMap(({ from, to }) => [from, to])]);
  const cuts = [...edges].filter((at) => at <= text.length).sort((a, b) => a - b);
  return cuts.slice(1).map((to, at): TextSpan => {
    const from = cuts[at]!;
    const has = (kind: MarkKind): boolean =>
      marks.some((mark) => mark.kind === kind && mark.from <= from && mark.to >= to);
    const part = text.slice(from, to);
    return {
      text:
        (at === 0 && !isFirst && spaceBefore ? ' ' : '') +
        (look.capitals === 'all' ? part.toLocaleUpperCase(language) : part),
      word,
      style: {
        face: look.face,
        weight: has('b') ? Math.min(900, Math.max(LEAST_BOLD, look.weight + BOLDER)) : look.weight,
        italic: look.italic !== has('i'),
        underline: has('u'),
        letterSpacingEm: look.letterSpacingEm,
        color: look.color,
        outline: look.outline,
        shadow: look.shadow
      }
    };
  });
}
