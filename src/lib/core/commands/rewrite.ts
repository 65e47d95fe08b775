/**
 * Writing a run of words anew: the old words and the new text are compared word by word. Words that did not change
 * keep everything; one written for one keeps its id and time; otherwise the new words share the old ones' time.
 */
import type { WordId } from '../id';
import { diffArrays } from 'diff';
import { clamp, type Ms, wholeMs } from '../time';
import { isSoundText, makeWord, shareTime, tokenize, type Mark, type Token, type Word } from '../track';

export interface NewToken extends Token {
  /** `null`: as the word had it. */
  readonly startsParagraph: boolean | null;
  /** Whether `marks` say something; plain text does not. */
  readonly marked: boolean;
}

/**
 * Plain text of the page to tokens; a line break begins a paragraph, the first word where `firstStarts`. `&` and `<`
 * stand for themselves.
 */
export function textTokens(text: string, language: string, firstStarts = false): readonly NewToken[] {
  return text.split(/\r\n|[\n\r\u2028\u2029]/).flatMap((line, lineAt) =>
    tokenize(escapeAll(line), language).map((token, at) => ({
      ...token,
      marks: [],
      marked: false,
      startsParagraph: at === 0 && (lineAt > 0 || firstStarts)
    }))
  );
}

const escapeAll = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** Lines of a cue, with their small markup, to tokens. */
export function lineTokens(line: string, language: string): readonly NewToken[] {
  return tokenize(line, language).map((token) => ({ ...token, marked: true, startsParagraph: null }));
}

export interface RewrittenRun {
  readonly words: readonly Word[];
  /** For each word, the index in the old run whose cue it belongs to; -1 where the old run was empty. */
  readonly origins: readonly number[];
  /** For each token, the id of the word it became. */
  readonly tokenIds: readonly WordId[];
}

/** Time for words put in where none stood. */
export interface Room {
  readonly startMs: Ms;
  readonly endMs: Ms;
}

export interface RewriteOptions {
  readonly newIds: readonly WordId[];
  /** Milliseconds since 1970. */
  readonly atMs: number;
  /** What becomes of heard words that the new text has not: left out of the captions, or gone. */
  readonly deleted: 'not shown' | 'gone';
  /** Where each token was heard, where that is known: one each. */
  readonly times?: readonly Room[] | undefined;
  /** Time before the first and after the last word that inserted words may take. */
  readonly room: Room;
}

/** `null` where `newIds` are too few. Words that did not change keep their times, whatever `times` says of them. */
export function rewriteRun(
  old: readonly Word[],
  tokens: readonly NewToken[],
  options: RewriteOptions
): RewrittenRun | null {
  const ids = options.newIds[Symbol.iterator]();
  const compared = old.map((word, at) => ({ word, at })).filter(({ word }) => options.deleted === 'gone' || word.shown);
  const words: Word[] = [];
  const origins: number[] = [];
  const tokenIds: WordId[] = [];
  let oldDone = 0; // Old words before this index have been put out.
  const put = (word: Word, origin: number): void => {
    words.push(word);
    origins.push(origin);
  };
  const putHiddenBefore = (until: number): void => {
    for (; oldDone < until; oldDone++)
      if (!old[oldDone]!.shown && options.deleted === 'not shown') put(old[oldDone]!, oldDone);
  };

  const heardAt = (at: number): (Room & { timing: 'heard' }) | undefined => {
    const time = options.times?.[at];
    return time && { startMs: time.startMs, endMs: wholeMs(Math.max(time.startMs, time.endMs)), timing: 'heard' };
  };

  let oldAt = 0;
  let tokenAt = 0;
  const changes = diffArrays(
    compared.map(({ word }) => word.text),
    tokens.map((token) => token.text)
  );
  for (let part = 0; part < changes.length; part++) {
    const change = changes[part]!;
    if (!change.added && !change.removed) {
      for (let step = 0; step < change.count; step++) {
        const { word, at } = compared[oldAt++]!;
        putHiddenBefore(at);
        const kept = dress(word, tokens[tokenAt++]!);
        put(kept, at);
        tokenIds.push(kept.id);
        oldDone = at + 1;
      }
      continue;
    }
    const next = changes[part + 1];
    const paired = next !== undefined && (next.added || next.removed) ? next : undefined;
    if (paired !== undefined) part++;
    const removedCount = (change.removed ? change.count : 0) + (paired?.removed ? paired.count : 0);
    const addedCount = (change.added ? change.count : 0) + (paired?.added ? paired.count : 0);
    const removed = compared.slice(oldAt, oldAt + removedCount);
    const added = tokens.slice(tokenAt, tokenAt + addedCount);
    oldAt += removedCount;
    tokenAt += addedCount;

    if (added.length === 0) {
      for (const { word, at } of removed) {
        putHiddenBefore(at);
        if (options.deleted === 'not shown' && word.timing !== 'estimated') put({ ...word, shown: false }, at);
        oldDone = at + 1;
      }
    } else if (added.length === removed.length) {
      removed.forEach(({ word, at }, step) => {
        putHiddenBefore(at);
        const token = added[step]!;
        const typed = retype(word, token.text, options.atMs);
        const heard = heardAt(tokenIds.length);
        const marked = { ...dress(token.marked ? typed : { ...typed, marks: [] }, token), ...heard };
        put(marked, at);
        tokenIds.push(marked.id);
        oldDone = at + 1;
      });
    } else {
      const first = removed[0];
      const last = removed.at(-1);
      if (first !== undefined) putHiddenBefore(first.at);
      const before = words.at(-1);
      const after = compared[oldAt]?.word;
      const fromMs = first?.word.startMs ?? before?.endMs ?? options.room.startMs;
      const toMs = last?.word.endMs ?? after?.startMs ?? options.room.endMs;
      const shares = shareTime(
        fromMs,
        Math.max(fromMs, toMs),
        added.map((token) => token.text)
      );
      for (const [step, token] of added.entries()) {
        const minted = ids.next();
        if (minted.done) return null;
        const like = removed[Math.floor((step * removed.length) / added.length)]?.word ?? before ?? after;
        const origin =
          removed[Math.floor((step * removed.length) / added.length)]?.at ??
          origins.at(-1) ??
          (old.length > 0 ? 0 : -1);
        const startsParagraph = token.startsParagraph ?? (step === 0 && (first?.word.startsParagraph ?? false));
        put(
          makeWord({
            id: minted.value,
            text: token.text,
            ...shares[step]!,
            timing: 'estimated',
            ...heardAt(tokenIds.length),
            speakerId: like?.speakerId ?? null,
            manner: like?.manner ?? 'spoken',
            correctedAt: options.atMs,
            marks: token.marks,
            spaceBefore: token.spaceBefore,
            startsParagraph
          }),
          origin
        );
        tokenIds.push(minted.value);
      }
      if (last !== undefined) oldDone = last.at + 1;
    }
  }
  putHiddenBefore(old.length);
  return { words, origins, tokenIds };
}

/** A word with another text: its time stays, its confidence is no longer the recogniser's. */
export function retype(word: Word, text: string, atMs: number): Word {
  return {
    ...word,
    text,
    kind: isSoundText(text) ? 'sound' : 'speech',
    confidence: null,
    correctedAt: atMs,
    marks: clipMarks(word.marks, text.length)
  };
}

const clipMarks = (marks: readonly Mark[], length: number): readonly Mark[] =>
  marks.map((mark) => ({ ...mark, to: Math.min(mark.to, length) })).filter((mark) => mark.from < mark.to);

/** The word with the marks and paragraph start of the token; the same object if nothing changes. */
function dress(word: Word, token: NewToken): Word {
  const startsParagraph = token.startsParagraph ?? word.startsParagraph;
  const marks = token.marked ? token.marks : word.marks;
  const same =
    startsParagraph === word.startsParagraph &&
    (marks === word.marks || JSON.stringify(marks) === JSON.stringify(word.marks));
  return same ? word : { ...word, startsParagraph, marks };
}

/**
 * The words of one cue with the estimated ones spread anew between their heard neighbours, or the cue's edges; starts
 * never decrease afterwards. Heard and fitted words stay unless a start would decrease.
 */
export function settleTimes(words: readonly Word[], cueStartMs: Ms, cueEndMs: Ms): readonly Word[] {
  const settled: Word[] = [];
  for (let at = 0; at < words.length;) {
    const word = words[at]!;
    const before = settled.at(-1);
    if (word.timing !== 'estimated') {
      const startMs = Math.max(word.startMs, before?.startMs ?? 0);
      settled.push(withTimes(word, wholeMs(startMs), wholeMs(Math.max(word.endMs, startMs))));
      at++;
      continue;
    }
    let end = at;
    while (end < words.length && words[end]!.timing === 'estimated') end++;
    const after = words[end];
    const latest = after?.startMs ?? Math.max(cueEndMs, before?.endMs ?? 0);
    const fromMs =
      before === undefined
        ? Math.min(cueStartMs, latest)
        : clamp(before.endMs, before.startMs, Math.max(before.startMs, latest));
    const shares = shareTime(
      fromMs,
      Math.max(fromMs, latest),
      words.slice(at, end).map((estimated) => estimated.text)
    );
    for (const share of shares) settled.push(withTimes(words[at++]!, share.startMs, share.endMs));
  }
  return settled;
}

/** After writing: words that share the time of those they replace keep it; a cue that is all estimated is spread anew. */
export function settleWritten(words: readonly Word[], cueStartMs: Ms, cueEndMs: Ms): readonly Word[] {
  if (words.every((word) => word.timing === 'estimated')) return settleTimes(words, cueStartMs, cueEndMs);
  let leastMs = 0;
  return words.map((word) => {
    leastMs = Math.max(leastMs, word.startMs);
    return withTimes(word, wholeMs(leastMs), wholeMs(Math.max(leastMs, word.endMs)));
  });
}

const withTimes = (word: Word, startMs: Ms, endMs: Ms): Word =>
  word.startMs === startMs && word.endMs === endMs ? word : { ...word, startMs, endMs };
