/** What always holds for a track. Checked when one is made or loaded, and by the tests after every edit. */
import { compareCues, type Track } from './track';

/** The first promise a track breaks, as a sentence; `null` where it keeps them all. */
export function findBrokenInvariant(track: Track): string | null {
  const at = new Map(track.words.map((word, index) => [word.id, index]));
  if (at.size !== track.words.length) return 'two words share an id';
  if (new Set(track.cues.map((cue) => cue.id)).size !== track.cues.length) return 'two cues share an id';
  const speakers = new Set(track.speakers.map((speaker) => speaker.id));
  for (const word of track.words) {
    if (word.endMs < word.startMs) return `word ${word.id} ends before it starts`;
    if (word.kind === 'speech' && /[\n\r\t ]/.test(word.text)) return `word ${word.id} holds white space`;
    if (word.speakerId !== null && !speakers.has(word.speakerId)) return `word ${word.id} has an unknown speaker`;
    if (word.marks.some((mark) => mark.from >= mark.to || mark.to > word.text.length))
      return `word ${word.id}: a mark lies outside`;
  }
  let last = -1;
  for (const [index, cue] of track.cues.entries()) {
    if (cue.endMs <= cue.startMs) return `cue ${cue.id} does not end after its start`;
    const before = track.cues[index - 1];
    if (before !== undefined && compareCues(before, cue) >= 0) return `cue ${cue.id} is out of order`;
    let startMs = -1;
    for (const [place, id] of cue.wordIds.entries()) {
      const here = at.get(id);
      if (here === undefined) return `cue ${cue.id} holds the unknown word ${id}`;
      if (here <= last) return `cue ${cue.id}: word ${id} stands before an earlier cue's words`;
      if (place > 0 && here !== last + 1) return `cue ${cue.id}: its words are not contiguous at ${id}`;
      if (track.words[here]!.startMs < startMs) return `cue ${cue.id}: word ${id} starts before the word ahead of it`;
      startMs = track.words[here]!.startMs;
      last = here;
    }
    if (cue.lineStarts.some((id) => !cue.wordIds.includes(id)))
      return `cue ${cue.id}: a line starts at a word that is not its own`;
  }
  return null;
}
