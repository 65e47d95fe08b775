/** Is it written as it should be: spelling, repeated words, capitals and sentence ends, figures, voices. */
import { bareWord } from '../english';
import { endsWith } from '../cueing';
import { doubtKey, MAY_REPEAT } from '../doubts';
import { isSameLanguage, joinWords, type Word } from '../track';
import { capitalise, repairEdits } from '../wording';
import { defineCheck, defineTrackCheck, type Check } from './check';
import type { CueView } from './finding';

/** A pause after which speech that goes on without a mark has lost one. */
const LONG_PAUSE_MS = 2000;
const NUMBERS = 'zero one two three four five six seven eight nine ten eleven twelve'.split(' ');
/** A number with its unit in one word, and what stands behind it. */
const STUCK_UNIT = /^(\d[\d.,]*)(km|cm|mm|m|kg|mg|g|ml|l|ms|min|h|k?hz|[mgk]b|kwh?|mph|°[cf])([.,;:?!]*)$/i;

/** The words of a cue, each with the one ahead of it, which may stand in the cue before. */
const withAhead = ({ words, before }: CueView): readonly { readonly word: Word; readonly ahead: Word | null }[] =>
  words.map((word, at) => ({ word, ahead: words[at - 1] ?? (at === 0 ? (before?.words.at(-1) ?? null) : null) }));

const isSpeech = (word: Word): boolean => word.kind === 'speech';

function doubtCheck(
  id: string,
  title: string,
  severity: Check['severity'],
  { reason, tell }: { readonly reason: 'spelling' | 'near_miss' | 'unsure'; readonly tell: string }
): Check {
  return defineCheck({
    ...{ id, title, severity, group: 'words', isGuess: true },
    needs: [reason === 'spelling' ? 'dictionary' : 'doubts'],
    look: ({ words, next }, { knowledge }) =>
      words.flatMap((word, at) => {
        const doubt = knowledge.doubts!.get(word.id);
        if (doubt?.reason !== reason) return [];
        const run = [...words.slice(at), ...(next?.words ?? [])].slice(0, doubt.wordIds.length);
        // It was raised on words that may have been written anew since.
        if (doubtKey(reason, run) !== doubt.key) return [];
        const [best] = doubt.candidates;
        const meant = best === undefined ? '' : `: perhaps “${best.text}”`;
        return [{ word, message: `“${joinWords(run)}” ${tell}${meant}.` }];
      }),
    mend(_, { knowledge }, { word }) {
      const { wordIds, candidates } = knowledge.doubts!.get(word!.id)!;
      const [best] = candidates;
      return best === undefined ? [] : [{ type: 'replaceWords', wordIds, text: best.text }];
    }
  });
}

export const wordChecks: readonly Check[] = [
  doubtCheck('spelling', 'Not in the dictionary', 'error', { reason: 'spelling', tell: 'is in no dictionary' }),
  doubtCheck('near_name', 'Sounds like an expected name', 'hint', {
    ...{ reason: 'near_miss', tell: 'sounds like an expected name' }
  }),
  doubtCheck('unsure', 'The recogniser was unsure', 'off', {
    reason: 'unsure',
    tell: 'was heard with little certainty.'
  }),
  defineCheck({
    id: 'doubled_word',
    group: 'words',
    title: 'A word stands twice',
    severity: 'warning',
    look: (view, { track }) =>
      withAhead(view).flatMap(({ word, ahead }) => {
        const bare = bareWord(word.text);
        if (ahead === null || bare === '' || !isSpeech(word) || bare !== bareWord(ahead.text)) return [];
        if (/\p{N}/u.test(bare) || /[\p{P}]$/u.test(ahead.text) || word.speakerId !== ahead.speakerId) return [];
        if (MAY_REPEAT.has(bare) && isSameLanguage(track.language, 'en')) return [];
        return [{ word, message: `“${ahead.text} ${word.text}”: the word stands twice.` }];
      }),
    mend: (_, __, { word }) => [{ type: 'setWordsShown', wordIds: [word!.id], shown: false }]
  }),
  defineCheck({
    id: 'sentence_end',
    group: 'words',
    title: 'A sentence has no end',
    severity: 'warning',
    look({ words, cue, next }) {
      const last = words.at(-1);
      if (last === undefined || !isSpeech(last) || hasMark(last.text)) return null;
      const first = next?.words[0];
      const ends =
        next === null ||
        (first !== undefined && (first.startsParagraph || first.speakerId !== last.speakerId)) ||
        next.cue.startMs - cue.endMs > LONG_PAUSE_MS;
      return ends ? { word: last, message: `Nothing ends the sentence behind “${last.text}”.` } : null;
    },
    mend: (_, { track }, { word }) => repairEdits(track, [word!], 'sentenceEnd')
  }),
  defineCheck({
    id: 'capital',
    group: 'words',
    title: 'No capital after a full stop',
    severity: 'warning',
    look: (view) =>
      withAhead(view).flatMap(({ word, ahead }) => {
        const begins = ahead === null ? view.before === null : /[.?!]["”’»)\]]*$/u.test(ahead.text);
        if (!begins || !isSpeech(word) || !/^["“‘«(]*\p{Ll}/u.test(word.text)) return [];
        if (ahead !== null && (!isSpeech(ahead) || endsWith(ahead.text) !== 'sentence' || /\.{3}|…/.test(ahead.text)))
          return [];
        return [{ word, message: `“${word.text}” begins a sentence without a capital.` }];
      }),
    mend: (_, __, { word }) => [{ type: 'setWordText', wordId: word!.id, text: capitalise(word!.text) }]
  }),
  defineCheck({
    id: 'small_number',
    group: 'words',
    title: 'A small number in figures',
    severity: 'off',
    numbers: { most: { label: 'In words up to', unit: '', least: 0, most: 12, value: 10 } },
    look: ({ words }, { track, numbers: { most } }) =>
      isSameLanguage(track.language, 'en')
        ? words.flatMap((word) => {
            const value = Number(/^(\d{1,2})[.,;:?!]*$/.exec(word.text)?.[1] ?? Number.NaN);
            return value <= most ? [{ word, value, limit: most, message: `${value} stands in figures.` }] : [];
          })
        : [],
    mend: (_, __, { word }) => [
      { type: 'setWordText', wordId: word!.id, text: word!.text.replace(/\d+/, (figures) => NUMBERS[Number(figures)]!) }
    ]
  }),
  defineCheck({
    id: 'stuck_unit',
    group: 'words',
    title: 'No space between number and unit',
    severity: 'hint',
    look: ({ words }) =>
      words.flatMap((word) =>
        STUCK_UNIT.test(word.text) ? [{ word, message: `“${word.text}”: the unit stands apart from its number.` }] : []
      ),
    mend: (_, __, { word }) => [
      // A word with a no-break space in it is written as a run of one.
      { type: 'replaceWords', wordIds: [word!.id], text: word!.text.replace(STUCK_UNIT, '$1\u00a0$2$3') }
    ]
  }),
  defineTrackCheck({
    id: 'speaker_named',
    group: 'words',
    title: 'A speaker is not named',
    severity: 'off',
    lookAtAll(views, { track }) {
      if (track.speakers.length < 2) return [];
      const met = new Set<string>();
      return views.flatMap((view) =>
        view.words.flatMap((word) => {
          if (word.speakerId === null || met.has(word.speakerId)) return [];
          met.add(word.speakerId);
          const name = track.speakers.find(({ id }) => id === word.speakerId)!.name;
          return view.text.toLowerCase().includes(name.toLowerCase())
            ? []
            : [{ view, word, message: `${name} speaks for the first time, and is not named.` }];
        })
      );
    }
  }),
  defineCheck({
    id: 'speaker_change',
    group: 'words',
    title: 'A change of speaker that is not shown',
    severity: 'warning',
    look({ words }, { track }) {
      if (track.rules.sharedCues !== 'plain') return null;
      const at = words.findIndex((word, index) => index > 0 && word.speakerId !== words[index - 1]!.speakerId);
      return at < 0
        ? null
        : { word: words[at]!, message: `Another voice begins at “${words[at]!.text}”, and nothing shows it.` };
    },
    mend: ({ cue }, _, { word }) => [{ type: 'splitCue', cueId: cue.id, wordId: word!.id }]
  })
];

/** Whether a mark ends the sentence, or says that it goes on. */
const hasMark = (text: string): boolean => /[.?!…:,;–—-]["”’»)\]]*$|[。！？؟۔、，」』]$|♪$/u.test(text);
