/** Can it be read: how fast, how long, and where lines and cues are parted. */
import { breakIntoLines, endsWith, partingCost } from '../cueing';
import type { ClientCommand } from '../commands';
import { wordsPerMinute, formatMarkedLine, lineLength, type Track, type Word } from '../track';
import { defineCheck, type Check } from './check';
import type { CueView } from './finding';
import { lengthenTo } from './moves';

/** Joined by what parts them, so that no word is pulled over from here. */
const TOGETHER = 100;
/** Behind a pause this long a cue may end anywhere. */
const BREATH_MS = 700;

/** The lines broken anew by the rules; none where they stay. */
function breakAnew({ cue, words }: CueView, track: Track): readonly ClientCommand[] {
  const starts = new Set<string>(breakIntoLines(words, track));
  if (starts.size === cue.lineStarts.length && cue.lineStarts.every((id) => starts.has(id))) return [];
  return linesOf(cue.id, words, (word) => starts.has(word.id));
}

function linesOf(cueId: CueView['cue']['id'], words: readonly Word[], begins: (word: Word) => boolean) {
  const lines: Word[][] = [];
  words.forEach((word, at) => {
    if (at === 0 || begins(word)) lines.push([word]);
    else lines.at(-1)!.push(word);
  });
  return [{ type: 'setCueText', cueId, lines: lines.map(formatMarkedLine) }] as const;
}

/** Parted in two where the least belongs together, near the middle. */
export function bestSplit({ cue, words }: CueView, track: Track): readonly ClientCommand[] {
  let best: { readonly word: Word; readonly cost: number } | null = null;
  for (let at = 1; at < words.length; at++) {
    const cost = partingCost(words, at - 1, track.language) + (120 * Math.abs(2 * at - words.length)) / words.length;
    if (best === null || cost < best.cost) best = { word: words[at]!, cost };
  }
  return best === null ? [] : [{ type: 'splitCue', cueId: cue.id, wordId: best.word.id }];
}

export const readingChecks: readonly Check[] = [
  defineCheck({
    id: 'reading_speed',
    group: 'reading',
    title: 'Reads too fast',
    severity: 'error',
    numbers: {
      most: { label: 'At most', unit: 'characters a second', least: 1, most: 100, value: { rule: 'maxCharsPerSecond' } }
    },
    look({ characters, lengthMs }, { numbers: { most } }) {
      const speed = characters / (lengthMs / 1000);
      // Speeds are told as they are shown: in whole characters a second.
      const value = Math.ceil(speed);
      return speed > most
        ? { value, limit: most, message: `${value} characters a second; the limit is ${most}.` }
        : null;
    },
    mend: (view, given) => lengthenTo(view, given, Math.ceil((view.characters / given.numbers.most) * 1000))
  }),
  defineCheck({
    id: 'reading_words',
    group: 'reading',
    title: 'Too many words a minute',
    severity: 'off',
    numbers: { most: { label: 'At most', unit: 'words a minute', least: 30, most: 600, value: 180 } },
    look({ characters, lengthMs }, { numbers: { most } }) {
      const value = wordsPerMinute(characters / (lengthMs / 1000));
      return value > most ? { value, limit: most, message: `${value} words a minute; the limit is ${most}.` } : null;
    },
    mend: (view, given) => lengthenTo(view, given, Math.ceil((view.characters * 10_000) / given.numbers.most))
  }),
  defineCheck({
    id: 'line_length',
    group: 'reading',
    title: 'A line is too long',
    severity: 'error',
    numbers: {
      most: { label: 'At most', unit: 'characters a line', least: 1, most: 200, value: { rule: 'maxCharsPerLine' } }
    },
    look: ({ texts }, { track, numbers: { most } }) =>
      texts.flatMap((line, at) => {
        const value = lineLength(line, track.language);
        const message = `Line ${at + 1} holds ${value} characters; the limit is ${most}.`;
        return value > most ? [{ value, limit: most, message }] : [];
      }),
    mend: (view, { track, numbers: { most } }) => {
      const setting = {
        ...track,
        rules: { ...track.rules, maxCharsPerLine: Math.min(most, track.rules.maxCharsPerLine) }
      };
      const room = setting.rules.maxCharsPerLine * setting.rules.maxLines;
      return view.characters > room ? bestSplit(view, track) : breakAnew(view, setting);
    }
  }),
  defineCheck({
    id: 'line_count',
    group: 'reading',
    title: 'Too many lines',
    severity: 'error',
    numbers: { most: { label: 'At most', unit: 'lines', least: 1, most: 5, value: { rule: 'maxLines' } } },
    look: ({ texts: { length } }, { numbers: { most } }) =>
      length > most ? { value: length, limit: most, message: `${length} lines; at most ${most} are shown.` } : null,
    mend: (view, { track, numbers: { most } }) => {
      const room = track.rules.maxCharsPerLine * most;
      return view.characters > room ? bestSplit(view, track) : breakAnew(view, track);
    }
  }),
  defineCheck({
    id: 'line_balance',
    group: 'reading',
    title: 'Lines of very different length',
    severity: 'hint',
    numbers: { most: { label: 'Longer by', unit: 'times', least: 1.2, most: 20, value: 2.5 } },
    look({ texts, words }, { track, numbers: { most } }) {
      if (texts.length !== 2 || hasTurns(words)) return null;
      const lengths = texts.map((line) => lineLength(line, track.language));
      const value = Math.round((Math.max(...lengths) / Math.max(1, Math.min(...lengths))) * 10) / 10;
      return value > most
        ? { value, limit: most, message: `One line is ${value} times as long as the other; the limit is ${most}.` }
        : null;
    },
    mend: (view, { track }) => breakAnew(view, track)
  }),
  defineCheck({
    id: 'line_parted',
    group: 'reading',
    title: 'A line ends inside a phrase',
    severity: 'hint',
    look({ lines, words }, { track }) {
      const starts = new Map(words.map((word, at) => [word.id, at]));
      return lines.slice(1).flatMap(([first]) => {
        const at = starts.get(first!.id)!;
        if (words[at - 1]!.speakerId !== words[at]!.speakerId) return [];
        return partingCost(words, at - 1, track.language) >= TOGETHER
          ? [{ word: words[at]!, message: `The line break parts “${words[at - 1]!.text} ${words[at]!.text}”.` }]
          : [];
      });
    },
    mend: (view, { track }) => breakAnew(view, track)
  }),
  defineCheck({
    id: 'cue_parted',
    group: 'reading',
    title: 'A cue ends inside a phrase',
    severity: 'hint',
    look({ words, next, cue }, { track }) {
      const [last, first] = [words.at(-1), next?.words[0]];
      if (last === undefined || first === undefined || next!.cue.startMs - cue.endMs > BREATH_MS) return null;
      if (last.kind !== 'speech' || first.kind !== 'speech' || last.speakerId !== first.speakerId) return null;
      const around = [...words.slice(-2), first];
      return partingCost(around, around.length - 2, track.language) >= TOGETHER
        ? { word: last, message: `The cue ends between “${last.text}” and “${first.text}”.` }
        : null;
    },
    mend({ cue, words }, { track }) {
      const cost = (left: number): number => partingCost(words, left - 1, track.language);
      let left = words.length - 1;
      while (left > 0 && cost(left) >= TOGETHER) left--;
      return left === 0
        ? []
        : words.slice(left).map(() => ({ type: 'moveBorder', cueId: cue.id, direction: 'push' }) as const);
    }
  }),
  defineCheck({
    id: 'sentence_begun',
    group: 'reading',
    title: 'A sentence begins at the very end of a cue',
    severity: 'hint',
    numbers: { share: { label: 'In the last', unit: '% of its characters', least: 1, most: 50, value: 15 } },
    look({ words, characters, next }, { numbers: { share } }) {
      const [end, last] = [words.at(-2), words.at(-1)];
      if (end === undefined || last === undefined || next === null) return null;
      if (endsWith(end.text) !== 'sentence' || endsWith(last.text) === 'sentence') return null;
      return last.text.length <= (characters * share) / 100
        ? { word: last, message: `“${last.text}” begins a sentence that goes on in the next cue.` }
        : null;
    },
    mend: ({ cue }) => [{ type: 'moveBorder', cueId: cue.id, direction: 'push' }]
  }),
  defineCheck({
    id: 'fits_one_line',
    group: 'reading',
    title: 'Two lines that fit one',
    severity: 'hint',
    look({ lines, words, text }, { track }) {
      if (lines.length !== 2 || hasTurns(words)) return null;
      const value = lineLength(text, track.language);
      const limit = track.rules.maxCharsPerLine;
      return value <= limit ? { value, limit, message: `Its ${value} characters fit one line of ${limit}.` } : null;
    },
    mend: ({ cue, words }) => linesOf(cue.id, words, () => false)
  })
];

const hasTurns = (words: readonly Word[]): boolean => words.some((word) => word.speakerId !== words[0]!.speakerId);
