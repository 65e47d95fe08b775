/** The lines of a cue: as they are written, and as they are shown, with a sign for each voice where several speak. */
import type { WordId } from '../id';
import { countCharacters, escapeMarkup, formatMarkedLine, joinWords, shownWords } from './text';
import type { Cue, Rules, Track, Word } from './track';

type Lines = readonly (readonly Word[])[];

/** The shown words of a cue, line by line. */
export const partLines = (cue: Pick<Cue, 'lineStarts'>, words: readonly Word[]): Lines =>
  partBefore(words, cue.lineStarts);

/** `starts` are few: a table of them would cost more than looking through them. */
function partBefore(words: readonly Word[], starts: readonly string[]): Lines {
  if (words.length === 0) return [];
  if (starts.length === 0) return [words];
  const lines: (readonly Word[])[] = [];
  let from = 0;
  for (let at = 1; at <= words.length; at++) {
    if (at < words.length && !starts.includes(words[at]!.id)) continue;
    lines.push(words.slice(from, at));
    from = at;
  }
  return lines;
}

/**
 * The words of each line of a cue as it is shown. Where several speak, each voice begins a line, behind a dash or its
 * name. No line is empty; an empty cue has none.
 */
export const lineWords = (track: Track, cue: Cue): Lines => signedLines(track, cue, shownWords(track, cue));

/** `lineWords` of words that are known already. */
export function signedLines(track: Pick<Track, 'rules' | 'speakers'>, cue: Cue, words: readonly Word[]): Lines {
  const turns = turnsOf(words);
  if (turns.length < 2) return partLines(cue, words);
  const beginning = new Map(turns.map((word) => [word.id, word]));
  const lines = partBefore(words, [...cue.lineStarts, ...beginning.keys()]);
  return lines.map(([first, ...rest]) => {
    const turn = beginning.get(first!.id);
    return turn === undefined ? [first!, ...rest] : [signed(turn, signOf(track, turn)), ...rest];
  });
}

/**
 * The first word of each turn, if more than one voice speaks; words without a speaker belong to the turn before them.
 */
function turnsOf(words: readonly Word[]): readonly Word[] {
  const speaker = words[0]?.speakerId;
  if (words.every((word) => word.speakerId === speaker)) return [];
  const turns: Word[] = [];
  for (const word of words) if (word.speakerId !== null && word.speakerId !== turns.at(-1)?.speakerId) turns.push(word);
  if (turns.length < 2) return [];
  // The first speaker also has the words before his own first one.
  return words[0] === turns[0] ? turns : [{ ...words[0]!, speakerId: turns[0]!.speakerId }, ...turns.slice(1)];
}

const DASH = '- ';

function signOf({ rules, speakers }: Pick<Track, 'rules' | 'speakers'>, { speakerId }: Word): string {
  if (rules.sharedCues === 'plain') return '';
  const name = rules.sharedCues === 'name' ? speakers.find((speaker) => speaker.id === speakerId)?.name : undefined;
  return name === undefined ? DASH : `${name}: `;
}

/** Characters that the sign of a voice takes. */
export const signLength = (rules: Rules, name: string | undefined): number =>
  rules.sharedCues === 'plain'
    ? 0
    : rules.sharedCues === 'name' && name !== undefined
      ? countCharacters(name) + 2
      : DASH.length;

const signed = (word: Word, sign: string): Word => ({
  ...word,
  text: sign + word.text,
  marks: word.marks.map((mark) => ({ ...mark, from: mark.from + sign.length, to: mark.to + sign.length }))
});

/** Takes the signs that `lineWords` adds off lines that are sent back. */
export function liftSigns(
  { rules, speakers }: Pick<Track, 'rules' | 'speakers'>,
  words: readonly Word[],
  lines: readonly string[]
): readonly string[] {
  const turns = turnsOf(words);
  if (turns.length < 2 || rules.sharedCues === 'plain') return lines;
  const names = turns.map(({ speakerId }) => speakers.find((speaker) => speaker.id === speakerId)?.name);
  return lines.map((line) =>
    liftSign(
      line,
      names.filter((name) => name !== undefined)
    )
  );
}

/** A line of small markup without the dash, or one of the names, that it begins with. */
export function liftSign(line: string, names: readonly string[]): string {
  const found = /^((?:<[ibu]>)*)[-–—][ \u00a0]+/.exec(line);
  if (found !== null) return found[1]! + line.slice(found[0].length);
  const tags = /^(?:<[ibu]>)*/.exec(line)![0];
  const rest = line.slice(tags.length);
  const name = names.map(escapeMarkup).find((one) => rest.startsWith(`${one}: `));
  return name === undefined ? line : tags + rest.slice(name.length + 2);
}

/** The lines of a cue as they are shown, as plain text. */
export const plainLines = (track: Track, cue: Cue): string[] => lineWords(track, cue).map(joinWords);

/** The lines of a cue as they are shown, with `<i>`, `<b>`, `<u>`; a literal `&`, `<`, `>` stands as its entity. */
export const markedLines = (track: Track, cue: Cue): string[] => lineWords(track, cue).map(formatMarkedLine);

/** The lines of a cue as they are written: without what is shown for a change of voice. */
export const writtenLines = (track: Track, cue: Cue): string[] =>
  partLines(cue, shownWords(track, cue)).map(formatMarkedLine);

/** The word at an offset in the cue's written lines, joined by line breaks; behind the last, the last. `null` for none. */
export function wordAtOffset(track: Track, cue: Cue, offset: number): WordId | null {
  const text = writtenLines(track, cue).join('\n');
  const words = shownWords(track, cue);
  let from = 0;
  for (const word of words) {
    // Marks may stand within a word: its first sign is looked for where the word cannot be.
    const written = escapeMarkup(word.text);
    const at = text.indexOf(written, from);
    from = at < 0 ? from : at + written.length;
    if (offset <= from) return word.id;
  }
  return words.at(-1)?.id ?? null;
}

/** The speaker of a cue, where all its shown words agree; else `null`. */
export function cueSpeaker(track: Track, cue: Cue): string | null {
  const words = shownWords(track, cue);
  const first = words[0]?.speakerId ?? null;
  return words.every((word) => word.speakerId === first) ? first : null;
}

/** Characters a second of a cue's shown text: the lines joined by one space. */
export function readingSpeed(track: Track, cue: Cue): number {
  return countCharacters(plainLines(track, cue).join(' ')) / ((cue.endMs - cue.startMs) / 1000);
}
