/** Two languages on one picture, or in one file. */
import { asCueId, asWordId } from '../id';
import { compareCues, lookUp, type Cue, type Track, type Word } from '../track';

const ofSource = (id: string): string => `source-${id}`;

/** A translation with the captions of its source at the top of the picture, as one track. It is shown and written, never edited. */
export function withSourceAbove(target: Track, source: Track): Track {
  const above = source.cues.map((cue): Cue => ({
    ...cue,
    id: asCueId(ofSource(cue.id)),
    wordIds: cue.wordIds.map((id) => asWordId(ofSource(id))),
    lineStarts: cue.lineStarts.map((id) => asWordId(ofSource(id))),
    placement: 'top centre',
    carried: null
  }));
  const { findWord } = lookUp(target);
  const sourceWords = new Map(
    source.words.map((word): [string, Word] => [
      ofSource(word.id),
      { ...word, id: asWordId(ofSource(word.id)), language: word.language ?? source.language }
    ])
  );
  const cues = [...target.cues, ...above].sort(compareCues);
  const known = new Set(target.speakers.map(({ id }) => id));
  return {
    ...target,
    cues,
    words: cues.flatMap(({ wordIds }) => wordIds.map((id) => sourceWords.get(id) ?? findWord(id)!)),
    speakers: [...target.speakers, ...source.speakers.filter(({ id }) => !known.has(id))]
  };
}
