/** Is the track fit to be a file: its name and language, and no words or cues beyond it. */
import type { Word } from '../track';
import { defineCheck, defineTrackCheck, seconds, type Check } from './check';
import { timed } from './moves';

/** What is ended before the recording does ends by so much before it. */
const LAST_MS = 100;

export const fileChecks: readonly Check[] = [
  defineTrackCheck({
    ...{ id: 'language', group: 'file', title: 'No language is set', severity: 'error' },
    lookAtAll: (_, { track }) =>
      /^(?:und|mul|zxx|mis)\b/i.test(track.language)
        ? [{ view: null, message: `The language is ${track.language}: players cannot name the track.` }]
        : []
  }),
  defineTrackCheck({
    ...{ id: 'title', group: 'file', title: 'The track has no name', severity: 'off' },
    lookAtAll: (_, { track }) => (track.title.trim() === '' ? [{ view: null, message: 'The track has no name.' }] : [])
  }),
  defineTrackCheck({
    ...{ id: 'no_cues', group: 'file', title: 'There are no cues', severity: 'error' },
    lookAtAll: (views) => (views.length === 0 ? [{ view: null, message: 'The track has no cues.' }] : [])
  }),
  defineTrackCheck({
    ...{ id: 'words_uncued', group: 'file', title: 'Words that are in no cue', severity: 'warning' },
    lookAtAll(_, { track: { words, cues } }) {
      // Cues hold their words in the order of the list.
      const left: Word[] = [];
      let at = 0;
      const passTo = (end: number): void => {
        for (; at < end; at++) if (words[at]!.shown && words[at]!.kind !== 'hole') left.push(words[at]!);
      };
      for (const { wordIds } of cues) {
        if (wordIds.length === 0) continue;
        let from = at;
        while (words[from]!.id !== wordIds[0]) from++;
        passTo(from);
        at += wordIds.length;
      }
      passTo(words.length);
      const [first] = left;
      return first === undefined
        ? []
        : [
            {
              ...{ view: null, word: first, value: left.length, span: first },
              message: `${left.length} words are in no cue, the first of them “${first.text}”: no file will hold them.`
            }
          ];
    }
  }),
  defineCheck({
    id: 'past_end',
    group: 'file',
    title: 'Ends after the recording',
    severity: 'error',
    look({ cue }, { knowledge: { durationMs } }) {
      const value = cue.endMs - durationMs;
      return value > 0
        ? { value, limit: durationMs, message: `Ends ${seconds(value)} after the recording does.` }
        : null;
    },
    mend: (view, { knowledge: { durationMs } }) => timed(view, { endMs: durationMs - LAST_MS })
  }),
  defineCheck({
    id: 'last_cue',
    group: 'file',
    title: 'Stands until the recording ends',
    severity: 'hint',
    numbers: { least: { label: 'Before the end by at least', unit: 'ms', least: 1, most: LAST_MS, value: 40 } },
    look({ cue }, { knowledge: { durationMs }, numbers: { least } }) {
      const value = durationMs - cue.endMs;
      return value >= 0 && value < least
        ? {
            ...{ value, limit: least },
            message: `Ends ${value} ms before the recording does; the least is ${least} ms, or players may leave it standing.`
          }
        : null;
    },
    mend: (view, { knowledge: { durationMs } }) => timed(view, { endMs: durationMs - LAST_MS })
  })
];
