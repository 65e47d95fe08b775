/** Sounds made while thinking: kept as they were heard, marked, and left out in one go. */
import type { ClientEdit } from '../edits';
import { isSameLanguage, type Track, type Word } from '../track';
import { isHesitation } from './english';

const ENDS_SENTENCE = /[.?!]$/;

/** The hesitations of a track in English, shown or left out; of other languages none are known. */
export const hesitationsOf = (track: Track): readonly Word[] =>
  isSameLanguage(track.language, 'en')
    ? track.words.filter((word) => word.kind === 'speech' && isHesitation(word.text))
    : [];

/** The edits that leave all hesitations out; what they leave keeps its capitals and stops. None where none is shown. */
export function leaveOutHesitations(track: Track): readonly ClientEdit[] {
  const going = new Set(hesitationsOf(track).filter((word) => word.shown));
  if (going.size === 0) return [];
  const shown = track.words.filter((word) => word.shown && word.kind === 'speech');
  const edits: ClientEdit[] = [{ type: 'setWordsShown', wordIds: [...going].map((word) => word.id), shown: false }];
  const rewrite = (word: Word | undefined, text: string): void => {
    if (word !== undefined && text !== word.text) edits.push({ type: 'setWordText', wordId: word.id, text });
  };
  for (let at = 0; at < shown.length; at++) {
    if (!going.has(shown[at]!)) continue;
    const from = at;
    while (at + 1 < shown.length && going.has(shown[at + 1]!)) at++;
    const run = shown.slice(from, at + 1);
    const [before, after] = [shown[from - 1], shown[at + 1]];
    const beginsSentence = before === undefined || ENDS_SENTENCE.test(before.text);
    const end = run.find((word) => ENDS_SENTENCE.test(word.text));
    if ((beginsSentence && /^\p{Lu}/u.test(run[0]!.text)) || end !== undefined)
      rewrite(after, after?.text.replace(/^\p{Ll}/u, (letter) => letter.toUpperCase()) ?? '');
    if (end !== undefined && !beginsSentence)
      rewrite(before, before.text.replace(/[,;:]?$/, ENDS_SENTENCE.exec(end.text)![0]));
  }
  return edits;
}
