/**
 * The page as text: paragraphs of a track's words, where each word lies in them, and the one edit that turns the words
 * there were into the text there is.
 */
import { textTokens, type ClientCommand } from '$lib/core/commands';
import { joinWords, type Track, type Word } from '$lib/core/track';

export interface Paragraph {
  readonly words: readonly Word[];
  readonly text: string;
  readonly speaker: string | null;
  readonly startMs: number;
}

const known = new WeakMap<readonly Word[], { speakers: Track['speakers']; paragraphs: readonly Paragraph[] }>();
/** By their first word: most edits leave most paragraphs as they are. */
let recent = new Map<Word | undefined, Paragraph>();

/** All words of the track, also those left out and the holes; a paragraph begins where its first word says so. */
export function paragraphsOf(track: Track): readonly Paragraph[] {
  const before = known.get(track.words);
  if (before?.speakers === track.speakers) return before.paragraphs;
  const names = new Map(track.speakers.map((speaker) => [speaker.id, speaker.name]));
  const runs: Word[][] = [];
  for (const word of track.words) {
    const run = runs.at(-1);
    if (run === undefined || word.startsParagraph) runs.push([word]);
    else run.push(word);
  }
  const paragraphs = runs.map((words): Paragraph => {
    const [first] = words as [Word];
    const speaker = first.speakerId === null ? null : (names.get(first.speakerId) ?? null);
    const old = recent.get(first);
    const isAsBefore =
      old?.speaker === speaker &&
      old.words.length === words.length &&
      words.every((word, at) => word === old.words[at]);
    return isAsBefore ? old : { words, text: joinWords(words), speaker, startMs: first.startMs };
  });
  recent = new Map(paragraphs.map((paragraph) => [paragraph.words[0], paragraph]));
  known.set(track.words, { speakers: track.speakers, paragraphs });
  return paragraphs;
}

/** Text with its white space made uniform, so that two texts with the same words are equal. */
export const bareText = (text: string): string => text.replace(/[\t\n\r \u3000]+/g, ' ').trim();

/** Where each word lies in the text of its paragraph, as it stands there: `[from, to]` offsets. */
export function placeWords(
  words: readonly Word[],
  text: string
): readonly { readonly from: number; readonly to: number }[] {
  let from = 0;
  return words.map((word) => {
    const found = text.indexOf(word.text, from);
    const at = found < 0 ? from : found;
    from = at + word.text.length;
    return { from: at, to: from };
  });
}

/** The word at an offset of a paragraph: the one it lies in or at whose end it stands; `null` in an empty one. */
export function wordAtOffset(words: readonly Word[], text: string, offset: number): Word | null {
  const places = placeWords(words, text);
  const at = places.findIndex((place) => offset <= place.to);
  return words[at < 0 ? words.length - 1 : at] ?? null;
}

/**
 * The edit that writes the words of these paragraphs as the new texts, a paragraph each; `null` where nothing differs.
 * `around` are the words before and after, for text put in where no word stood.
 */
export function editForTexts(
  old: readonly Word[],
  texts: readonly string[],
  around: { readonly before: Word | undefined; readonly after: Word | undefined },
  language: string
): ClientCommand | null {
  const tokens = textTokens(texts.filter((text) => bareText(text) !== '').join('\n'), language).map((token, at) => ({
    text: token.text,
    spaceBefore: token.spaceBefore,
    // The first line begins a paragraph as every line does.
    starts: at === 0 || token.startsParagraph === true
  }));
  const isSame = (word: Word, token: (typeof tokens)[number]): boolean =>
    word.text === token.text && word.startsParagraph === token.starts;
  let head = 0;
  while (head < old.length && head < tokens.length && isSame(old[head]!, tokens[head]!)) head++;
  let tail = 0;
  while (tail < old.length - head && tail < tokens.length - head && isSame(old.at(-1 - tail)!, tokens.at(-1 - tail)!))
    tail++;
  if (head === old.length && head === tokens.length) return null;
  // The word before comes along: it says whether a paragraph begins behind it, and gives inserted words their place.
  if (head > 0) head--;
  else if (old.length - tail === 0 && tail > 0) tail--;
  const run = old.slice(head, old.length - tail);
  const written = tokens.slice(head, tokens.length - tail);
  const text = written
    .map((token, at) => (at === 0 ? '' : token.starts ? '\n' : token.spaceBefore ? ' ' : '') + token.text)
    .join('');
  if (run.length > 0) return { type: 'replaceWords', wordIds: run.map((word) => word.id), text };
  if (around.before !== undefined)
    return { type: 'replaceWords', wordIds: [around.before.id], text: `${around.before.text}\n${text}` };
  if (around.after !== undefined)
    return { type: 'replaceWords', wordIds: [around.after.id], text: `${text}\n${around.after.text}` };
  return null;
}
