/**
 * All checks over a track. A cue is looked at again only where it, a neighbour or what is known has changed, so that an
 * edit costs what it touches.
 */
import { wholeMs } from '../time';
import {
  countCharacters,
  joinWords,
  shownWords,
  shownWordsOfAll,
  signedLines,
  type Cue,
  type Sheet,
  type Track,
  type Word
} from '../track';
import type { Check, CueCheck, Given, TrackCheck } from './check';
import type { CueFinding, CueView, Finding, Found, Knowledge, Need, ShownCue } from './finding';
import { habitsOf, type Habits } from './habits';
import { numbersOf, severityOf } from './sheet';
import { CHECKS } from './table';

/** A check that could not be made, because something is not there. */
export interface NotChecked {
  readonly rule: string;
  readonly needs: Need;
}

export interface Report {
  /** In order of time. */
  readonly findings: readonly Finding[];
  readonly notChecked: readonly NotChecked[];
}

/** A check that is on, with what it is given. */
export interface Running {
  readonly check: Check;
  readonly severity: Finding['severity'];
  readonly given: Given<string>;
}

const isOfTrack = (check: Check): check is TrackCheck => 'lookAtAll' in check;

export function showCue(track: Pick<Track, 'rules' | 'speakers'>, cue: Cue, words: readonly Word[]): ShownCue {
  const lines = signedLines(track, cue, words);
  const texts = lines.map(joinWords);
  const text = texts.join(' ');
  return { cue, words, lines, texts, text, characters: countCharacters(text), lengthMs: cue.endMs - cue.startMs };
}

export const viewAt = (shown: readonly ShownCue[], at: number): CueView => ({
  ...shown[at]!,
  before: shown[at - 1] ?? null,
  next: shown[at + 1] ?? null
});

/** One cue of a track, by its place among the cues. */
export function viewOf(track: Track, at: number): CueView {
  const show = (cue: Cue): ShownCue => showCue(track, cue, shownWords(track, cue));
  const [before, next] = [track.cues[at - 1], track.cues[at + 1]];
  return {
    ...show(track.cues[at]!),
    before: before === undefined ? null : show(before),
    next: next === undefined ? null : show(next)
  };
}

/** The checks that a sheet has on, of all or of some, and those of them that cannot be made. */
export function running(
  track: Track,
  knowledge: Knowledge,
  sheet: Sheet,
  habits: Habits,
  some: readonly Check[] = CHECKS
): { readonly checks: readonly Running[]; readonly notChecked: readonly NotChecked[] } {
  const checks: Running[] = [];
  const notChecked: NotChecked[] = [];
  for (const check of some) {
    const severity = severityOf(check, sheet);
    if (severity === 'off') continue;
    const missing = check.needs?.find((need) => isMissing(need, knowledge));
    if (missing !== undefined) notChecked.push({ rule: check.id, needs: missing });
    else checks.push({ check, severity, given: { track, knowledge, habits, numbers: numbersOf(check, sheet, track) } });
  }
  return { checks, notChecked: notChecked.filter(({ needs }) => needs !== 'source' || track.sourceTrackId !== null) };
}

function isMissing(need: Need, knowledge: Knowledge): boolean {
  if (need === 'dictionary') return knowledge.doubts === null || !knowledge.isSpelled;
  return (need === 'shots' ? knowledge.shotsMs : knowledge[need]) === null;
}

/** What a check of cues finds in one. */
export function findIn({ check, severity, given }: Running, view: CueView): readonly CueFinding[] {
  const found = (check as CueCheck).look(view, given);
  if (found === null) return [];
  return (Array.isArray(found) ? (found as readonly Found[]) : [found as Found]).map((one) =>
    Object.assign(findingOf(check, severity, view, one), { cueId: view.cue.id })
  );
}

/** All that one cue is checked for by itself. */
export const checkView = (checks: readonly Running[], view: CueView): readonly CueFinding[] =>
  checks.flatMap((one) => (isOfTrack(one.check) ? [] : findIn(one, view)));

function findingOf(check: Check, severity: Finding['severity'], view: CueView | null, found: Found): Finding {
  const { startMs, endMs } = found.span ?? view?.cue ?? { startMs: wholeMs(0), endMs: wholeMs(0) };
  const about = view === null ? `${Math.round(startMs / 100)}-${Math.round(endMs / 100)}` : view.text;
  const place = [view?.cue.id, found.word?.id].filter((id) => id !== undefined).join(' ');
  return {
    key: `${check.id} ${place} ${hashOf(about)}`,
    rule: check.id,
    group: check.group,
    severity,
    cueId: view?.cue.id ?? null,
    wordId: found.word?.id ?? null,
    ...{ startMs, endMs },
    message: found.message,
    value: found.value ?? null,
    limit: found.limit ?? null,
    fixable: 'mend' in check
  };
}

/** FNV-1a, 32 bits. */
function hashOf(text: string): string {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return (hash >>> 0).toString(36);
}

interface Kept {
  readonly view: CueView;
  readonly findings: readonly Finding[];
}

/** Checks one track after each of its changes. */
export class Checker {
  #shown = new Map<string, ShownCue>();
  #kept = new Map<string, Kept>();
  #common: readonly unknown[] = [];

  check(track: Track, knowledge: Knowledge, sheet: Sheet): Report {
    const habits = habitsOf(track.words);
    const common = [
      ...[track.rules, track.speakers, track.language, track.look, track.names, sheet],
      ...(Object.values(knowledge) as unknown[]),
      ...(Object.values(habits) as unknown[])
    ];
    const isSame = common.length === this.#common.length && common.every((one, at) => one === this.#common[at]);
    this.#common = common;
    if (!isSame) this.#kept.clear();

    const words = shownWordsOfAll(track);
    const shown = track.cues.map((cue, at) => {
      const old = isSame ? this.#shown.get(cue.id) : undefined;
      return old !== undefined && old.cue === cue && isSameList(old.words, words[at]!)
        ? old
        : showCue(track, cue, words[at]!);
    });
    const { checks, notChecked } = running(track, knowledge, sheet, habits);
    const ofCues = checks.filter(({ check }) => !isOfTrack(check));
    const kept = new Map<string, Kept>();
    const findings: Finding[] = [];
    const views = shown.map((one, at) => {
      const old = this.#kept.get(one.cue.id);
      const [before, next] = [shown[at - 1] ?? null, shown[at + 1] ?? null];
      const stays =
        old !== undefined &&
        old.view.before === before &&
        old.view.next === next &&
        this.#shown.get(one.cue.id) === one;
      const view = stays ? old.view : { ...one, before, next };
      const own = stays ? old.findings : checkView(ofCues, view);
      kept.set(one.cue.id, stays ? old : { view, findings: own });
      findings.push(...own);
      return view;
    });
    for (const { check, severity, given } of checks)
      if (isOfTrack(check))
        for (const { view, ...found } of check.lookAtAll(views, given))
          findings.push(findingOf(check, severity, view, found));
    this.#shown = new Map(shown.map((one) => [one.cue.id, one]));
    this.#kept = kept;
    return { findings: findings.sort((a, b) => a.startMs - b.startMs), notChecked };
  }
}

const isSameList = <T>(one: readonly T[], other: readonly T[]): boolean =>
  one.length === other.length && one.every((item, at) => item === other[at]);

/** All checks over a track, once. */
export const checkTrack = (track: Track, knowledge: Knowledge, sheet: Sheet = {}): Report =>
  new Checker().check(track, knowledge, sheet);
