/** What always holds for a track. Checked when one is made or loaded, and by the tests after every edit. */
import { lookUp } from './lookup';
import { compareCues, type Cue, type Track, type Word } from './track';

/**
 * The first promise a track breaks, as a sentence; `null` where it keeps them all. `before`: a track that keeps them all,
 * of which this one was made: only what differs is looked at, and what it stands beside.
 */
export function findBrokenInvariant(track: Track, before?: Track): string | null {
  const near = before === undefined || before.speakers !== track.speakers ? null : differing(before, track);
  const words = near === null ? track.words : track.words.slice(near.words.from, near.words.to);
  const speakers = new Set(track.speakers.map((speaker) => speaker.id));
  for (const word of words) {
    const broken = brokenWord(word, speakers);
    if (broken !== null) return broken;
  }
  const cuesAt = near === null ? track.cues.keys() : near.cuesAt;
  if (near === null) {
    if (new Set(track.words.map((word) => word.id)).size !== track.words.length) return 'two words share an id';
    if (new Set(track.cues.map((cue) => cue.id)).size !== track.cues.length) return 'two cues share an id';
  } else if (near.shared !== null) return `two ${near.shared} share an id`;
  for (const at of cuesAt) {
    const broken = brokenCue(track, at);
    if (broken !== null) return broken;
  }
  return null;
}

function brokenWord(word: Word, speakers: ReadonlySet<string>): string | null {
  if (word.endMs < word.startMs) return `word ${word.id} ends before it starts`;
  if (word.kind === 'speech' && /[\n\r\t ]/.test(word.text)) return `word ${word.id} holds white space`;
  if (word.speakerId !== null && !speakers.has(word.speakerId)) return `word ${word.id} has an unknown speaker`;
  if (word.marks.some((mark) => mark.from >= mark.to || mark.to > word.text.length))
    return `word ${word.id}: a mark lies outside`;
  return null;
}

function brokenCue(track: Track, at: number): string | null {
  const cue = track.cues[at]!;
  if (cue.endMs <= cue.startMs) return `cue ${cue.id} does not end after its start`;
  const before = track.cues[at - 1];
  if (before !== undefined && compareCues(before, cue) >= 0) return `cue ${cue.id} is out of order`;
  const { wordAt } = lookUp(track);
  let ahead = at - 1;
  while (track.cues[ahead]?.wordIds.length === 0) ahead--;
  let last = wordAt.get(track.cues[ahead]?.wordIds.at(-1) ?? '') ?? -1;
  let startMs = -1;
  for (const [place, id] of cue.wordIds.entries()) {
    const here = wordAt.get(id);
    if (here === undefined) return `cue ${cue.id} holds the unknown word ${id}`;
    if (here <= last) return `cue ${cue.id}: word ${id} stands before an earlier cue's words`;
    if (place > 0 && here !== last + 1) return `cue ${cue.id}: its words are not contiguous at ${id}`;
    if (track.words[here]!.startMs < startMs) return `cue ${cue.id}: word ${id} starts before the word ahead of it`;
    startMs = track.words[here]!.startMs;
    last = here;
  }
  return cue.lineStarts.some((id) => !cue.wordIds.includes(id))
    ? `cue ${cue.id}: a line starts at a word that is not its own`
    : null;
}

/** The words that differ, the cues that differ, hold such words or stand next to those, and what of them shares an id. */
function differing(before: Track, track: Track) {
  const words = stretchThatDiffers(before.words, track.words);
  const cues = stretchThatDiffers(before.cues, track.cues);
  const [old, now] = [lookUp(before), lookUp(track)];
  const touched = new Set<Cue>(track.cues.slice(Math.max(0, cues.from - 1), cues.to + 1));
  const around = [
    ...before.words.slice(words.from, words.oldTo).map((word) => old.findCueOf(word.id)),
    ...track.words.slice(words.from, words.to).map((word) => now.findCueOf(word.id))
  ];
  for (const cue of around) {
    const at = cue === undefined ? undefined : now.cueAt.get(cue.id);
    if (at !== undefined) for (const one of track.cues.slice(Math.max(0, at - 1), at + 2)) touched.add(one);
  }
  return {
    words,
    cuesAt: [...touched].map((cue) => now.cueAt.get(cue.id)!).sort((one, other) => one - other),
    shared: hasDouble(track.words, words, (id) => old.wordAt.get(id))
      ? 'words'
      : hasDouble(track.cues, cues, (id) => old.cueAt.get(id))
        ? 'cues'
        : null
  };
}

interface Differing {
  readonly from: number;
  readonly to: number;
  /** In the list before. */
  readonly oldTo: number;
}

function stretchThatDiffers<T>(before: readonly T[], after: readonly T[]): Differing {
  const least = Math.min(before.length, after.length);
  let from = 0;
  while (from < least && before[from] === after[from]) from++;
  let tail = 0;
  while (tail < least - from && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++;
  return { from, to: after.length - tail, oldTo: before.length - tail };
}

/** Whether an item of the stretch stands twice in it, or outside of it too. */
function hasDouble(
  list: readonly { readonly id: string }[],
  { from, to, oldTo }: Differing,
  oldAt: (id: string) => number | undefined
): boolean {
  const ids = list.slice(from, to).map(({ id }) => id);
  if (new Set(ids).size !== ids.length) return true;
  return ids.some((id) => {
    const at = oldAt(id);
    return at !== undefined && (at < from || at >= oldTo);
  });
}
