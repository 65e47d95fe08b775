/** Laying cues on words whose times are known: their own, or those of another hearing of the same recording. */
import type { CueId } from '../id';
import { timeCue } from '../cueing';
import { spokenForms } from '../expecting';
import { matchWords } from '../fitting';
import type { Span } from '../time';
import { countCharacters, plainLines, shownWords, type Track, type Word } from '../track';

export interface Laid {
  readonly times: readonly (Span & { readonly cueId: CueId })[];
  /** Cues none of whose words was heard: they stay. */
  readonly notHeard: number;
}

/** Times for the cues by when their words were heard, ends lingering as the rules say. Locked cues stay. */
export function layOnWords(track: Track, heard: readonly Word[]): Laid {
  const spans = heardSpans(track, heard);
  let notHeard = 0;
  const found = track.cues.map((cue) => {
    const words = shownWords(track, cue).filter((word) => word.kind === 'speech');
    const known = words.flatMap((word, at) => {
      const span = spans.get(word.id);
      return span === undefined ? [] : [{ at, span, word }];
    });
    if (known.length === 0 || cue.locked) {
      if (words.length > 0 && !cue.locked) notHeard++;
      return null;
    }
    const [first, last] = [known[0]!, known.at(-1)!];
    // Words at the edges that were not heard keep their distance to the nearest one that was.
    const firstStartMs = first.span.startMs - (first.word.startMs - words[0]!.startMs);
    const lastEndMs = last.span.endMs + (words.at(-1)!.endMs - last.word.endMs);
    return { cue, firstStartMs: Math.max(0, firstStartMs), lastEndMs: Math.max(lastEndMs, firstStartMs + 1) };
  });
  const times = found.flatMap((one, at) => {
    if (one === null) return [];
    const next = found.slice(at + 1, at + 8).find((other) => other !== null);
    const nextStartMs = next?.firstStartMs ?? null;
    const characters = countCharacters(plainLines(track, one.cue).join(' '));
    const span = timeCue({ ...one, characters }, nextStartMs, track.rules);
    const isSame = span.startMs === one.cue.startMs && span.endMs === one.cue.endMs;
    return isSame ? [] : [{ cueId: one.cue.id, ...span }];
  });
  return { times, notHeard };
}

/** When each word of the track was heard: by its own time, or by the same words in the other hearing. */
function heardSpans(track: Track, heard: readonly Word[]): ReadonlyMap<string, Span> {
  const spans = new Map<string, Span>();
  const forms = (words: readonly Word[]) =>
    words.flatMap((word) => spokenForms(word.text).map((form) => ({ form, word })));
  const own = forms(track.words.filter((word) => word.shown && word.kind === 'speech'));
  const theirs = forms(heard.filter((word) => word.kind === 'speech'));
  const matches = matchWords(
    own.map(({ form }) => form),
    theirs.map(({ form }) => form)
  );
  for (const { script, heard: at } of matches) {
    const { word } = own[script]!;
    const span = theirs[at]!.word;
    const known = spans.get(word.id);
    spans.set(word.id, { startMs: known?.startMs ?? span.startMs, endMs: span.endMs });
  }
  for (const word of track.words) if (word.timing !== 'estimated' && word.kind === 'speech') spans.set(word.id, word);
  return spans;
}
