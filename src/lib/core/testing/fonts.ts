/** For tests of what is drawn: real fonts, and tracks that say what lines their one cue has. */
import { fontShelf } from '../../server/faces/shelf';
import {
  HOUSE_LOOK,
  makeCue,
  makeTrack,
  makeWord,
  overrideLook,
  type LookOverrides,
  type Track,
  type Word
} from '../track';

export const shelf = fontShelf();

/** A track of one cue, from 0 to 5 s, with these lines; its words last 300 ms each. */
export function trackOfLines(
  lines: readonly string[],
  look: LookOverrides = {},
  { language = 'en', change = (word) => word }: { language?: string; change?: (word: Word, at: number) => Word } = {}
): Track {
  const words: Word[] = [];
  const lineStarts: string[] = [];
  for (const [at, line] of lines.entries())
    for (const [place, text] of line.split(' ').entries()) {
      const id = `w${words.length}`;
      if (at > 0 && place === 0) lineStarts.push(id);
      const startMs = words.length * 300;
      words.push(change(makeWord({ id, text, startMs, endMs: startMs + 300, timing: 'heard' }), words.length));
    }
  const cue = makeCue({ id: 'c', startMs: 0, endMs: 5000, wordIds: words.map(({ id }) => id), lineStarts });
  return makeTrack({
    ...{ id: 't', recordingId: 'r', language, title: '', words, cues: [cue] },
    look: overrideLook(HOUSE_LOOK, look)
  });
}
