/** A translation as it begins: the times, speakers, looks and places of its source, and its sounds. */
import { asTrackId } from '../id';
import {
  joinLines,
  joinWords,
  makeCue,
  makeTrack,
  makeWord,
  partLines,
  rulesOfScript,
  shownWordsOfAll,
  type Cue,
  type Track,
  type Word
} from '../track';

export interface BeginOptions {
  readonly id: string;
  readonly language: string;
  readonly title: string;
  /** Whether its rows begin with the source's words, to be overwritten, or with its described sounds alone. */
  readonly text: 'sounds' | 'words';
  readonly mint: () => string;
}

/** A new track whose cues each translate one of the source. Nothing in it is written by hand. */
export function makeTranslation(source: Track, { id, language, title, text, mint }: BeginOptions): Track {
  const words: Word[] = [];
  const shown = shownWordsOfAll(source);
  const cues = source.cues.map((cue, at): Cue => {
    const own = shown[at]!;
    const ids = new Map<string, string>();
    for (const word of own) {
      if (text === 'sounds' && word.kind !== 'sound') continue;
      const copy = { ...word, id: mint(), timing: 'estimated' as const, confidence: null, alternatives: [] };
      ids.set(word.id, copy.id);
      words.push(makeWord({ ...copy, correctedAt: null, language: null }));
    }
    const lineStarts = cue.lineStarts.flatMap((start) => ids.get(start) ?? []);
    const wordIds = [...ids.values()];
    return makeCue({
      id: mint(),
      startMs: cue.startMs,
      endMs: cue.endMs,
      wordIds,
      lineStarts: lineStarts.filter((start) => start !== wordIds[0]),
      placement: cue.placement,
      look: cue.look,
      sourceCueIds: [cue.id],
      translation: { state: 'machine', sourceText: joinLines(partLines(cue, own).map(joinWords)) }
    });
  });
  const { recordingId, speakers, look, lookFrom, sheet, sheetFrom, names } = source;
  return makeTrack({
    ...{ id, recordingId, language, title, words, cues, speakers, look, lookFrom, sheet, sheetFrom, names },
    kind: 'subtitles',
    sourceTrackId: asTrackId(source.id),
    rules: rulesOfScript(source.rules, source.language, language)
  });
}
