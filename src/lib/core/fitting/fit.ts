/** Laying a script on the sound: which stretches hold which of its words, and the words that come of it. */
import { spokenForms } from '../expecting';
import type { HeardWord } from '../heard-word';
import { type Ms, type Span, toSpan, wholeMs } from '../time';
import { likenessOf, matchWords, type Match } from './match';
import { withoutForms, type ScriptWord } from './script';

/** A stretch of sound and the words, as a dictionary has them, that are to be laid on it in order. */
export interface FitTask extends Span {
  readonly position: number;
  readonly words: readonly {
    readonly form: string;
    /** It was not heard: it may be missing. */
    readonly isOptional: boolean;
    /** The script's word that it belongs to. */
    readonly of: number;
    /** Where it was heard. */
    readonly heard: Span | null;
  }[];
}

export interface FitPlan {
  readonly tasks: readonly FitTask[];
  /** Of the script's words, or of those that were heard where they are fewer, the share that is the same: 0 to 1. */
  readonly heardShare: number;
  /** What was said and is not written, each by the script's word that it comes before. */
  readonly unwritten: readonly { readonly before: number; readonly words: readonly HeardWord[] }[];
}

/** Heard words in a row that match none of the script's words between the same neighbours, from one form to before another. */
interface Gap {
  readonly fromForm: number;
  readonly toForm: number;
  readonly words: readonly HeardWord[];
  /** It is not the script that was misheard: something else was said. */
  readonly isForeign: boolean;
}

/** A word that was heard and not written may be a slip of hearing; this many in a row were said. */
const LEAST_UNWRITTEN = 4;
/** Words of the script and of what was heard, together, that match nothing on each side of a match by chance. */
const CHANCE_DISTANCE = 4;
/** Misheard words are spelled more alike than this, as a whole; any two sentences of English are less. */
const LEAST_ALIKE = 0.45;

interface Form {
  readonly form: string;
  readonly of: number;
}

/** Chunks in order, with what was heard in each; `null` where nothing could be. */
export interface HeardStretch extends Span {
  readonly words: readonly HeardWord[] | null;
}

/** Where the words of a script are to be looked for, from what was heard. */
export function planFit(script: readonly ScriptWord[], chunks: readonly HeardStretch[]): FitPlan {
  const forms = script.flatMap((word, of): Form[] => word.forms.map((form) => ({ form, of })));
  const heard = chunks.flatMap((chunk, at) =>
    (chunk.words ?? []).flatMap((word) => spokenForms(word.text).map((form) => ({ form, word, chunk: at })))
  );
  const matches = withoutChance(
    matchWords(
      forms.map(({ form }) => form),
      heard.map(({ form }) => form)
    )
  );
  const heardOf = new Map(matches.map((match) => [match.script, heard[match.heard]!]));
  const exact = matches.filter((match) => match.isExact).length;
  const said = heard.map(({ word }) => word);
  const gaps = gapsBetween(forms, matches, said);
  return {
    tasks: makeTasks(forms, heardOf, gaps, chunks),
    heardShare: exact / Math.max(1, Math.min(forms.length, heard.length)),
    unwritten: gaps
      .filter((gap) => gap.isForeign)
      .map(({ toForm, words }) => ({ before: forms[toForm]?.of ?? script.length, words }))
  };
}

/** Left out: one or two matches alone among what does not match, as small words do by chance. */
function withoutChance(matches: readonly Match[]): readonly Match[] {
  const islands: Match[][] = [];
  for (const match of matches) {
    const last = islands.at(-1)?.at(-1);
    if (last !== undefined && match.script - last.script === 1 && match.heard - last.heard === 1)
      islands.at(-1)!.push(match);
    else islands.push([match]);
  }
  const between = (one: Match | undefined, other: Match | undefined): number =>
    one === undefined || other === undefined ? 0 : other.script - one.script + other.heard - one.heard - 2;
  return islands.flatMap((island, at) => {
    const before = between(islands[at - 1]?.at(-1), island[0]);
    const after = between(island.at(-1), islands[at + 1]?.[0]);
    return island.length <= 2 && before >= CHANCE_DISTANCE && after >= CHANCE_DISTANCE ? [] : island;
  });
}

/**
 * Each chunk gets the words that were heard in it. Chunks between which words lie that were not heard are taken as one:
 * the sound says on which side they are. What is said and not written is in no task.
 */
function makeTasks(
  forms: readonly Form[],
  heardOf: ReadonlyMap<number, { readonly word: HeardWord; readonly chunk: number }>,
  gaps: readonly Gap[],
  chunks: readonly Span[]
): FitTask[] {
  const tasks: FitTask[] = [];
  const foreign = new Map(gaps.filter((gap) => gap.isForeign).map((gap) => [gap.toForm, gap]));
  let [from, startMs, lastChunk, lastHeard] = [0, chunks[0]?.startMs ?? 0, -1, -1];
  const close = (to: number, endMs: Ms): void => {
    if (to <= from || endMs <= startMs) return;
    const words = forms.slice(from, to).map(({ form, of }, at) => {
      const heard = heardOf.get(from + at)?.word ?? null;
      return { form, of, isOptional: heard === null, heard: heard && { startMs: heard.startMs, endMs: heard.endMs } };
    });
    tasks.push({ position: tasks.length, startMs: wholeMs(startMs), endMs, words });
  };
  for (let at = 0; at < forms.length; at++) {
    const chunk = heardOf.get(at)?.chunk;
    if (chunk === undefined) continue;
    const missed = at - lastHeard - 1;
    const isFar = missed > MOST_MISSED;
    const gap = foreign.get(at);
    if (gap !== undefined) {
      close(gap.fromForm, gap.words[0]!.startMs);
      [from, startMs] = [at, gap.words.at(-1)!.endMs];
    } else if (lastHeard < 0) {
      // Words before the first that was heard may be anywhere before it.
      if (missed === 0 || isFar) [from, startMs] = [at, chunks[chunk]!.startMs];
    } else if (chunk > lastChunk && (missed === 0 || isFar)) {
      // A long passage that nobody spoke belongs to neither side.
      close(isFar ? lastHeard + 1 : at, chunks[lastChunk]!.endMs);
      [from, startMs] = [at, chunks[chunk]!.startMs];
    }
    [lastChunk, lastHeard] = [chunk, at];
  }
  if (lastHeard < 0) return tasks;
  const last = foreign.get(forms.length);
  const left = forms.length - 1 - lastHeard;
  if (last !== undefined) close(last.fromForm, last.words[0]!.startMs);
  else if (left > 0 && left <= MOST_MISSED) close(forms.length, chunks.at(-1)!.endMs);
  else close(lastHeard + 1, chunks[lastChunk]!.endMs);
  return tasks;
}

/** Words in a row that were not heard, beyond which they are taken as not spoken. */
const MOST_MISSED = 40;

function gapsBetween(forms: readonly Form[], matches: readonly Match[], heard: readonly HeardWord[]): Gap[] {
  const gaps: Gap[] = [];
  let [lastScript, lastHeard] = [-1, -1];
  for (const match of [...matches, { script: forms.length, heard: heard.length, isExact: false }]) {
    const words = heard.slice(lastHeard + 1, match.heard);
    const [fromForm, toForm] = [lastScript + 1, match.script];
    if (words.length >= LEAST_UNWRITTEN) {
      const written = forms.slice(fromForm, toForm).map(({ form }) => form);
      const alike = likenessOf(written.join(''), words.map((word) => spokenForms(word.text).join('')).join(''));
      gaps.push({ fromForm, toForm, words, isForeign: alike < LEAST_ALIKE });
    }
    [lastScript, lastHeard] = [match.script, match.heard];
  }
  return gaps;
}

/**
 * Which of the words asked for are those that an engine laid on the sound, in order; `null` for an optional one that is
 * left out. No places where they do not go together.
 */
export function placeInOrder(
  words: readonly { readonly form: string; readonly isOptional: boolean }[],
  laid: readonly (Span & { readonly text: string })[]
): (Span | null)[] | null {
  const width = laid.length + 1;
  // From the end: can the words from `at` on be those laid from `to` on?
  const can = new Uint8Array((words.length + 1) * width);
  can[words.length * width + laid.length] = 1;
  const isSame = (at: number, to: number): boolean =>
    to < laid.length && laid[to]!.text.toLowerCase() === words[at]!.form && can[(at + 1) * width + to + 1] === 1;
  for (let at = words.length - 1; at >= 0; at--)
    for (let to = laid.length; to >= 0; to--)
      can[at * width + to] = isSame(at, to) || (words[at]!.isOptional && can[(at + 1) * width + to] === 1) ? 1 : 0;
  if (can[0] === 0) return null;
  let to = 0;
  return words.map((_, at) => {
    if (!isSame(at, to)) return null;
    const { startMs, endMs } = laid[to++]!;
    return { startMs, endMs };
  });
}

/** A word of the script with its time. */
export interface FittedWord extends Span, Omit<ScriptWord, 'forms'> {
  /** `not spoken`: in the script and not in the sound; its time is where it would be. */
  readonly place: 'fitted' | 'estimated' | 'not spoken';
}

/** Times of a task's words, `null` for one that is not spoken; no times where the task could not be laid. */
export type TaskTimes = readonly (Span | null)[] | null;

/** An engine squeezes words that are not there into any sound: nobody speaks this fast, in ms a letter. */
const RUSHED_MS = 38;

/** Optional words in a row that would have been spoken too fast are not spoken. */
function withoutRushed(task: FitTask, times: NonNullable<TaskTimes>): NonNullable<TaskTimes> {
  const kept = [...times];
  for (let at = 0; at < kept.length;) {
    let to = at;
    while (to < kept.length && task.words[to]!.isOptional) to++;
    const laid = kept.slice(at, to).filter((time) => time !== null);
    const letters = task.words.slice(at, to).reduce((sum, { form }, i) => sum + (kept[at + i] ? form.length : 0), 0);
    const ms = laid.reduce((sum, time) => sum + time.endMs - time.startMs, 0);
    if (laid.length > 0 && ms / letters < RUSHED_MS) kept.fill(null, at, to);
    at = Math.max(to, at + 1);
  }
  return kept;
}

/** The script's words with their times, in the script's order, never going back. */
export function fittedWords(
  script: readonly ScriptWord[],
  done: readonly { readonly task: FitTask; readonly times: TaskTimes }[],
  endMs: number
): readonly FittedWord[] {
  const spans = new Map<number, Span>();
  const looked = new Set<number>();
  const asked = new Set(done.flatMap(({ task }) => task.words.map((word) => word.of)));
  for (const { task, times: laid } of done) {
    const times = laid && withoutRushed(task, laid);
    task.words.forEach(({ of, heard }, at) => {
      if (times !== null) looked.add(of);
      // What the engine could not lay stands where it was heard.
      const time = times === null ? heard : times[at];
      if (time === null || time === undefined) return;
      const known = spans.get(of);
      spans.set(of, { startMs: known?.startMs ?? time.startMs, endMs: time.endMs });
    });
  }
  const words: FittedWord[] = [];
  for (let at = 0; at < script.length;) {
    const span = spans.get(at);
    if (span !== undefined) {
      words.push({ ...withoutForms(script[at]!), ...span, place: 'fitted' });
      at++;
      continue;
    }
    // A run without times of its own shares the room between its neighbours by length.
    let to = at;
    while (to < script.length && !spans.has(to)) to++;
    const fromMs = words.at(-1)?.endMs ?? 0;
    const untilMs = Math.max(fromMs, spans.get(to)?.startMs ?? Math.min(endMs, fromMs + 300 * (to - at)));
    const run = script.slice(at, to);
    const total = run.reduce((sum, word) => sum + word.text.length, 0);
    let passed = 0;
    run.forEach((word, index) => {
      const isSilent = word.forms.length > 0 && (looked.has(at + index) || !asked.has(at + index));
      const startMs = Math.round(fromMs + ((untilMs - fromMs) * passed) / total);
      passed += word.text.length;
      const stopMs = Math.round(fromMs + ((untilMs - fromMs) * passed) / total);
      words.push({
        ...withoutForms(word),
        ...toSpan({ startMs, endMs: stopMs }),
        place: isSilent ? 'not spoken' : 'estimated'
      });
    });
    at = to;
  }
  return words;
}
