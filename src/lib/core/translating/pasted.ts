/**
 * What a translator outside has made of rows on the clipboard, back on its rows: by their numbers, and where those are
 * gone or were made anew, by what fits. A row is sure only where both agree, or its number stands and nothing speaks
 * against it.
 */
import { fail, ok, type Result } from '../result';
import { countCharacters, escapeMarkup, joinTokens, tokenize, type Token } from '../track';
import { alignToRows, BREAKS, type AlignedWord, type Alignment, type Break, type Run } from './alignment';
import { plainDigits } from './anchors';
import { rowNumber } from './clipboard';

export interface PastedRow {
  /** Its place among all rows. */
  readonly row: number;
  /** Empty where nothing was found for it. */
  readonly text: string;
  /** Whether it needs no look. */
  readonly sure: boolean;
}

export interface Pasted {
  /** One for each row of the part that says something, in order. */
  readonly rows: readonly PastedRow[];
  /** What belongs to no row: greetings, remarks, what was pasted beside. */
  readonly left: readonly string[];
}

export interface PasteProblem {
  readonly code: 'too_long' | 'no_text';
  readonly message: string;
}

/** A paste may be so many times as long as its part. */
const MOST_TIMES = 4;
/** A short part may grow by more. */
const LEAST_CHARACTERS = 2000;
/** By fit alone a row is sure above this probability. */
const SURE_BY_FIT = 0.97;
/** A number is as good as so many texts that fit as well. */
const SURE_BY_NUMBER = 0.6;
/** Numbers were made anew where so many rows one after the other fit elsewhere, and hardly here. */
const RENUMBERED_ROWS = 2;
const HARDLY = 1e-4;
/** What rows that fit have on average, as the logarithm of how likely they are. */
const PLAUSIBLE = -7;
/** From so many rows on their own lengths say how much longer the translation is than the source. */
const ROWS_FOR_SCALE = 5;

/** `sources`: the texts of the part's rows, the first of which is `firstRow`; `language`: of the translation. */
export function readPasted(
  pasted: string,
  {
    sources,
    firstRow,
    language
  }: { readonly sources: readonly string[]; readonly firstRow: number; readonly language: string }
): Result<Pasted, PasteProblem> {
  const longest = Math.max(LEAST_CHARACTERS, MOST_TIMES * sources.reduce((sum, one) => sum + one.length + 8, 0));
  if (pasted.length > longest)
    return fail({
      code: 'too_long',
      message: `The text has ${pasted.length} characters; a translation of these rows has at most ${longest}. Paste that of this part alone.`
    });
  const places = sources.flatMap((source, at) => (source === '' ? [] : at));
  const texts = places.map((at) => sources[at]!);
  const numbers = places.map((at) => rowNumber(firstRow + at));
  const { words, marks } = wordsOf(tidy(pasted), language, numbers);
  if (words.length === 0) return fail({ code: 'no_text', message: 'There is no text to lay on the rows.' });
  const laid = layPasted(words, marks, { texts, language });
  return ok({
    rows: laid.map(({ run, isSure }, at) => ({
      row: firstRow + places[at]!,
      text: textOf(words, run),
      sure: isSure && run.to > run.from
    })),
    left: leftOf(
      words,
      laid.map(({ run }) => run)
    )
  });
}

/** Line breaks, entities and signs of direction as they were before a tool changed them. HTML is read as the text it shows. */
function tidy(pasted: string): string {
  const isHtml = /<\/(?:p|div|td|li|span|body|h\d)>|<br\s*\/?>/i.test(pasted);
  const plain = isHtml
    ? pasted
        .replace(/<(?:script|style)\b[^>]*>[^]*?<\/(?:script|style)>/gi, '')
        .replace(/<(?:br|\/p|\/div|\/tr|\/li|\/h\d)\b[^>]*>/gi, '\n')
        .replace(/<\/?[a-z][^<>]*>/gi, '')
    : pasted;
  return (
    plain
      .replace(/&(amp|lt|gt|quot|apos|nbsp|#39|#x27|#160|#34);/gi, (_, name: string) => ENTITIES[name.toLowerCase()]!)
      .replace(/[\u200b\u200e\u200f\u202a-\u202e\u2060\u2066-\u2069\u061c\ufeff]/g, '')
      .replace(/\r\n?|[\u0085\u2028\u2029]/g, '\n')
      // Between words no language sets one for good.
      .replace(/(?<=\p{L}|\p{L}{3}[.,?!])\u00a0(?=\p{L})/gu, ' ')
      .normalize('NFC')
  );
}

const ENTITIES: Readonly<Record<string, string>> = {
  ...{ amp: '&', lt: '<', gt: '>', quot: '"', apos: "'", nbsp: '\u00a0' },
  ...{ '#39': "'", '#x27': "'", '#160': '\u00a0', '#34': '"' }
};

const DIGITS = String.raw`\d{1,3}(?:[.,٬'’ \u00a0\u202f]\d{3})+|\d{1,6}`;
const OPEN = String.raw`[[［【〔(（「『{<〈《«“"]`;
const CLOSE = String.raw`[\]］】〕)）」』}>〉》»”"]`;
/** In brackets, whichever; what lists and emphasis are written with may stand around it. */
const BRACKETED = new RegExp(String.raw`[*_\\]*${OPEN}\\?\s*(${DIGITS})\s*\\?${CLOSE}[*_]*[:.]?`, 'gu');
/** What may stand ahead of it at the beginning of a line. */
const AHEAD = /^[\s*_#>•\d.-]*$/;
/** Without brackets, at the beginning of a line. */
const BARE = new RegExp(String.raw`^[\s*_#>•-]*(\d{1,6})(?:\s*[.:)\]،、。．-]+(?=\s|$)|(?=\s|$))`, 'u');

/** A number that may be a row's. */
interface Candidate {
  /** The row's place in the part; `null` where it has none of this number. */
  readonly row: number | null;
  readonly line: number;
  /** Where it stands in its line, from its first sign to behind its last. */
  readonly from: number;
  readonly to: number;
  readonly kind: 'at start' | 'within' | 'bare' | 'loose';
}

const WEIGHT: Readonly<Record<Candidate['kind'], number>> = { 'at start': 6, within: 4, bare: 1, loose: 0.5 };
/** Without brackets, anywhere: looked for where lines are gone. */
const LOOSE = /(?<![^\s])(\d{1,6})(?:[.):،、。．]+)?(?=\s)/gu;
/** Bare numbers are those of rows where so many of the rows have one. */
const MANY_BARE = 0.5;

/** Where the text of a row begins, by its number. */
interface Mark {
  readonly row: number;
  readonly at: number;
}

/** The words of a text without the numbers of rows, and where those stood. */
function wordsOf(
  text: string,
  language: string,
  numbers: readonly number[]
): { readonly words: readonly AlignedWord[]; readonly marks: readonly Mark[] } {
  const lines = text.split('\n');
  const rowOf = new Map(numbers.map((number, row) => [number, row]));
  const candidates = candidatesOf(lines, rowOf);
  const chosen = new Set(rowMarks(candidates, numbers.length));
  const byLine = new Map<number, Candidate[]>();
  let row: number | null = null;
  for (const one of candidates) {
    if (chosen.has(one)) row = one.row;
    else if (one.kind !== 'at start' && (one.row === null || one.row !== row)) continue;
    const own = byLine.get(one.line);
    if (own === undefined) byLine.set(one.line, [one]);
    else own.push(one);
  }
  const words: AlignedWord[] = [];
  const marks: Mark[] = [];
  let before: Break = 'none';
  const put = (part: string): void => {
    for (const { text: own, spaceBefore } of tokenizeText(part, language)) {
      const isFirst = words.length === 0;
      words.push({
        text: own,
        spaceBefore: spaceBefore || before !== 'none',
        breakBefore: isFirst ? 'none' : before
      });
      before = 'none';
    }
  };
  let wasBlank = false;
  lines.forEach((line, at) => {
    if (line.trim() === '') {
      wasBlank = true;
      return;
    }
    before = wider(before, wasBlank ? 'paragraph' : 'line');
    wasBlank = false;
    let from = 0;
    for (const mark of byLine.get(at) ?? []) {
      put(line.slice(from, mark.from));
      const isChosen = chosen.has(mark);
      // A number that stands once more goes on with its row.
      before = isChosen || mark.row === null || mark.row !== marks.at(-1)?.row ? 'mark' : 'none';
      if (isChosen) marks.push({ row: mark.row!, at: words.length });
      from = mark.to;
    }
    put(line.slice(from));
  });
  return { words, marks };
}

const wider = (one: Break, other: Break): Break => (BREAKS.indexOf(one) > BREAKS.indexOf(other) ? one : other);

/** What looks like markup in a paste is text. */
const tokenizeText = (text: string, language: string): readonly Token[] => tokenize(escapeMarkup(text), language);

function candidatesOf(lines: readonly string[], rowOf: ReadonlyMap<number, number>): readonly Candidate[] {
  const candidates = lines.flatMap((line, at) => candidatesIn(line, at, rowOf));
  if (candidates.length >= MANY_BARE * rowOf.size || lines.length >= MANY_BARE * rowOf.size) return candidates;
  return lines.flatMap((line, at) =>
    [...plainDigits(line).matchAll(LOOSE)].flatMap(({ 0: whole, 1: digits, index }): Candidate[] => {
      const row = rowOf.get(Number(digits));
      return row === undefined ? [] : [{ row, line: at, from: index, to: index + whole.length, kind: 'loose' }];
    })
  );
}

function candidatesIn(line: string, at: number, rowOf: ReadonlyMap<number, number>): readonly Candidate[] {
  const plain = plainDigits(line);
  // Digits outside the basic plane are written with two units: places would differ.
  if (plain.length !== line.length) return [];
  const rowAt = (digits: string): number | null => rowOf.get(Number(digits.replace(/\D/g, ''))) ?? null;
  const found: Candidate[] = [];
  for (const { 0: whole, 1: digits, index } of plain.matchAll(BRACKETED)) {
    const isFirst = AHEAD.test(plain.slice(0, index));
    const row = rowAt(digits!);
    const kind = isFirst ? 'at start' : 'within';
    if (isFirst || row !== null)
      found.push({ row, line: at, from: isFirst ? 0 : index, to: index + whole.length, kind });
  }
  const bare = BARE.exec(plain);
  const row = bare === null ? null : rowAt(bare[1]!);
  if (bare !== null && row !== null && found[0]?.kind !== 'at start')
    found.unshift({ row, line: at, from: 0, to: bare[0].length, kind: 'bare' });
  return found;
}

/** The heaviest of all sequences of candidates whose rows rise. */
function rowMarks(candidates: readonly Candidate[], rowCount: number): readonly Candidate[] {
  const rising = heaviestRising(candidates.filter(({ row }) => row !== null));
  const areMany = rising.length >= MANY_BARE * rowCount;
  return rising.filter(
    ({ kind, row }, at) =>
      (kind !== 'bare' && kind !== 'loose') ||
      areMany ||
      (rising[at - 1]?.row === row! - 1 && rising[at + 1]?.row === row! + 1)
  );
}

function heaviestRising(candidates: readonly Candidate[]): readonly Candidate[] {
  const rows = Math.max(-1, ...candidates.map(({ row }) => row!)) + 1;
  // A binary indexed tree over rows: the heaviest sequence that ends at a row below a given one (Fenwick, 1994).
  const tree = new Int32Array(rows + 1).fill(-1);
  const weights = new Float64Array(candidates.length);
  const before = new Int32Array(candidates.length).fill(-1);
  let last = -1;
  candidates.forEach(({ row, kind }, at) => {
    let best = -1;
    for (let node = row!; node > 0; node -= node & -node)
      if (tree[node]! >= 0 && (best < 0 || weights[tree[node]!]! > weights[best]!)) best = tree[node]!;
    weights[at] = WEIGHT[kind] + (best < 0 ? 0 : weights[best]! + (candidates[best]!.row === row! - 1 ? 1 : 0));
    before[at] = best;
    for (let node = row! + 1; node <= rows; node += node & -node)
      if (tree[node]! < 0 || weights[at] > weights[tree[node]!]!) tree[node] = at;
    if (last < 0 || weights[at] > weights[last]!) last = at;
  });
  const chosen: Candidate[] = [];
  for (let at = last; at >= 0; at = before[at]!) chosen.push(candidates[at]!);
  return chosen.reverse();
}

interface Laid {
  readonly run: Run;
  readonly isSure: boolean;
}

interface Rows {
  readonly texts: readonly string[];
  readonly language: string;
}

function layPasted(words: readonly AlignedWord[], marks: readonly Mark[], rows: Rows): readonly Laid[] {
  const { texts, language } = rows;
  const { runs: numbered, isOwn, scale } = runsByNumber(words, marks, rows);
  const fit = alignToRows(words, texts, { language, scale });
  const probabilities = numbered.map((run, row) => fit.probabilityOf(row, run));
  const isRenumbered = renumberedRows(numbered, fit, probabilities);
  return texts.map((_, row) => {
    const own = fit.runs[row]!;
    if (isRenumbered[row] === 1)
      return { run: own, isSure: fit.probabilityOf(row, own) >= SURE_BY_FIT && isBroken(words, own) };
    const run = numbered[row]!;
    const least = isOwn[row] === 1 ? SURE_BY_NUMBER : SURE_BY_FIT;
    return { run, isSure: probabilities[row]! >= least && isBroken(words, run) };
  });
}

/** Whether the text itself parts a run from what stands around it. */
const isBroken = (words: readonly AlignedWord[], { from, to }: Run): boolean =>
  (from === 0 || words[from]?.breakBefore !== 'none') && (to === words.length || words[to]!.breakBefore !== 'none');

/** Runs by the numbers; where those of rows are gone, what fits best between those that stand. */
function runsByNumber(words: readonly AlignedWord[], marks: readonly Mark[], { texts, language }: Rows) {
  const runs: Run[] = texts.map(() => ({ from: 0, to: 0 }));
  const isOwn = new Uint8Array(texts.length);
  const stretches = stretchesOf(words.length, marks, texts.length);
  const scale = scaleOf(words, stretches, texts);
  for (const { rows, run } of stretches) {
    const isAlone = rows.to - rows.from === 1;
    if (isAlone) isOwn[rows.from] = 1;
    // What stands in paragraphs of its own may be no part of the row.
    if (isAlone && words.slice(run.from + 1, run.to).every(({ breakBefore }) => breakBefore !== 'paragraph')) {
      runs[rows.from] = run;
      continue;
    }
    const own = words.slice(run.from, run.to);
    const laid = alignToRows(own, texts.slice(rows.from, rows.to), { language, scale });
    laid.runs.forEach(({ from, to }, at) => {
      runs[rows.from + at] = { from: run.from + from, to: run.from + to };
    });
  }
  return { runs, isOwn, scale };
}

interface Stretch {
  readonly rows: Run;
  readonly run: Run;
}

/** What stands between one number and the next, with the rows that it is of. */
function stretchesOf(wordCount: number, marks: readonly Mark[], rowCount: number): readonly Stretch[] {
  const stretches: Stretch[] = [];
  const put = (rowFrom: number, rowTo: number, from: number, to: number): void => {
    const last = stretches.at(-1);
    // Numbers that stand together share what follows.
    if (last !== undefined && last.run.from === last.run.to && rowFrom > 0 && last.rows.to === rowFrom)
      stretches[stretches.length - 1] = { rows: { from: last.rows.from, to: rowTo }, run: { from, to } };
    else if (rowTo > rowFrom) stretches.push({ rows: { from: rowFrom, to: rowTo }, run: { from, to } });
  };
  const [first] = marks;
  put(0, first?.row ?? rowCount, 0, first?.at ?? wordCount);
  marks.forEach(({ row, at }, place) => {
    const next = marks[place + 1];
    put(row, next?.row ?? rowCount, at, next?.at ?? wordCount);
  });
  return stretches;
}

/** The median of how much longer rows are whose numbers stand; `undefined` where those are too few to say. */
function scaleOf(
  words: readonly AlignedWord[],
  stretches: readonly Stretch[],
  texts: readonly string[]
): number | undefined {
  const scales = stretches
    .filter(({ rows, run }) => rows.to - rows.from === 1 && run.to > run.from)
    .map(({ rows, run }) => countCharacters(textOf(words, run)) / countCharacters(texts[rows.from]!))
    .sort((one, other) => one - other);
  return scales.length < ROWS_FOR_SCALE ? undefined : scales[scales.length >> 1];
}

/** 1 for each row whose number says something else than what fits, on and on. */
function renumberedRows(numbered: readonly Run[], fit: Alignment, probabilities: readonly number[]): Uint8Array {
  const isRenumbered = new Uint8Array(numbered.length);
  const differs = (row: number): boolean => {
    const [one, other] = [numbered[row]!, fit.runs[row]!];
    return one.from !== other.from || one.to !== other.to;
  };
  for (let from = 0; from < numbered.length; from++) {
    if (!differs(from)) continue;
    let to = from;
    let [hardly, longest] = [0, 0];
    for (; to < numbered.length && differs(to); to++) {
      hardly = probabilities[to]! < HARDLY ? hardly + 1 : 0;
      longest = Math.max(longest, hardly);
    }
    let likelihood = 0;
    for (let row = from; row < to; row++) likelihood += fit.likelihoodOf(row, fit.runs[row]!);
    // What fits nowhere is no better elsewhere.
    if (longest >= RENUMBERED_ROWS && likelihood / (to - from) >= PLAUSIBLE) isRenumbered.fill(1, from, to);
    from = to;
  }
  return isRenumbered;
}

const textOf = (words: readonly AlignedWord[], { from, to }: Run): string => joinTokens(words.slice(from, to));

/** What lies between the runs, line by line. */
function leftOf(words: readonly AlignedWord[], runs: readonly Run[]): readonly string[] {
  const isTaken = new Uint8Array(words.length);
  for (const { from, to } of runs) isTaken.fill(1, from, to);
  const left: string[] = [];
  let from = 0;
  for (let at = 1; at <= words.length; at++) {
    if (at < words.length && isTaken[at] === isTaken[from] && words[at]!.breakBefore === 'none') continue;
    if (isTaken[from] === 0) left.push(textOf(words, { from, to: at }));
    from = at;
  }
  return left;
}
