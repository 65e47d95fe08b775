/** What the optimal breaker is held against: words are filled in until a limit is reached, under the same rules. */
import { textLength, type CueBreak, type Passage } from '../src/lib/core/cueing';

export function breakGreedily(passage: Passage): CueBreak[] {
  const { words, rules, mustBreak } = passage;
  const cues: CueBreak[] = [];
  for (let from = 0; from < words.length;) {
    const lineStarts: number[] = [];
    let line = from;
    let to = from;
    while (to + 1 < words.length && mustBreak[to] === 0) {
      if (words[to + 1]!.endMs - words[from]!.startMs > rules.maxDurationMs) break;
      if (textLength(passage, line, to + 1) > rules.maxCharsPerLine) {
        if (lineStarts.length + 1 === rules.maxLines) break;
        line = to + 1;
        lineStarts.push(line);
      }
      to++;
    }
    cues.push({ from, to, lineStarts });
    from = to + 1;
  }
  return cues;
}
