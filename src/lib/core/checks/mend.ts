/** What would mend a finding, tried before it is offered: a mending that makes anything else worse is none. */
import { completeCommand, tryCommands, type ClientCommand } from '../commands';
import { lookUp, type Cue, type Sheet, type Track, type Word } from '../track';
import type { CueCheck } from './check';
import type { Finding, Found, Knowledge } from './finding';
import { countHabits, habitsIn, keepsHabits } from './habits';
import { checkView, running, viewOf, type Running } from './run';
import { describeCheck, findCheck } from './table';

interface Setting {
  readonly knowledge: Knowledge;
  readonly sheet: Sheet;
  /** Ids for what mendings make. */
  readonly mint: () => string;
  readonly atMs: number;
}

export interface Mended {
  readonly track: Track;
  /** Complete, in order: what does it. */
  readonly commands: readonly ClientCommand[];
  /** Keys of what is mended. */
  readonly keys: readonly string[];
}

/** Whether all findings of a rule may be mended without looking at each. */
export const isMendedUnseen = (rule: string): boolean => {
  const check = findCheck(rule);
  return check !== undefined && describeCheck(check).mends === 'unseen';
};

/**
 * Mends those findings of a track that can be, each on what the ones before have left of its neighbourhood. Those whose
 * neighbourhoods are apart are mended in one round, each on its own piece, so that many cost what they touch.
 */
export function mend(
  track: Track,
  findings: readonly Finding[],
  setting: Setting,
  onProgress: (done: number) => void = () => undefined
): Mended {
  let now = track;
  const commands: ClientCommand[] = [];
  const keys: string[] = [];
  const counts = countHabits(track.words);
  let left = findings;
  while (left.length > 0) {
    const round = chooseRound(now, left);
    const { checks } = running(now, setting.knowledge, setting.sheet, habitsIn(counts));
    const done: (Piece & { readonly after: Track })[] = [];
    for (const { finding, piece } of round.chosen) {
      const before = cutOut(now, piece);
      const mended = mendOne(before, { finding, at: piece.at - piece.fromCue, checks }, setting);
      if (mended === null || !staysWithin(now, piece, before, mended.after)) continue;
      if (!keepsHabits(counts, before.words, mended.after.words)) continue;
      done.push({ ...piece, after: mended.after });
      commands.push(...mended.commands);
      keys.push(finding.key);
    }
    now = putBack(now, done);
    left = round.left;
    onProgress(1 - left.length / findings.length);
  }
  return { track: now, commands: join(commands), keys };
}

/** Cues on either side of one whose times or words its mending may touch. */
const REACH = 2;

/** Cues beside each other and the words from the first one's to those of the cue behind the last; `at`: the one meant. */
interface Piece {
  readonly at: number;
  readonly fromCue: number;
  readonly toCue: number;
  readonly fromWord: number;
  readonly toWord: number;
}

interface Round {
  readonly chosen: readonly { readonly finding: Finding; readonly piece: Piece }[];
  readonly left: readonly Finding[];
}

/** Findings whose neighbourhoods do not touch, and those that are left for later; of a cue that is gone nothing is. */
function chooseRound(track: Track, findings: readonly Finding[]): Round {
  const { cueAt } = lookUp(track);
  const starts = wordStarts(track);
  const placed = findings.flatMap((finding) => {
    const at = finding.cueId === null ? undefined : cueAt.get(finding.cueId);
    return at === undefined ? [] : [{ finding, at }];
  });
  placed.sort((a, b) => a.at - b.at);
  const chosen: Round['chosen'][number][] = [];
  const left: Finding[] = [];
  let reached = 0;
  for (const { finding, at } of placed) {
    // One more than may be touched: the cues beside which those are seen.
    const fromCue = Math.max(0, at - REACH - 1);
    const toCue = Math.min(track.cues.length, at + REACH + 2);
    if (fromCue < reached) {
      left.push(finding);
      continue;
    }
    reached = toCue;
    chosen.push({
      finding,
      piece: { at, fromCue, toCue, fromWord: starts[fromCue]!, toWord: starts[toCue] ?? track.words.length }
    });
  }
  return { chosen, left };
}

/** Where the words of each cue begin; of one without any, behind those of the cue before it. */
function wordStarts({ cues, words }: Track): readonly number[] {
  let at = 0;
  return cues.map(({ wordIds }) => {
    const [first] = wordIds;
    if (first !== undefined) while (words[at]!.id !== first) at++;
    const start = at;
    at += wordIds.length;
    return start;
  });
}

/** Whether the cues at the edges of a piece are where they were: then it fits between the others, in their order. */
function staysWithin(track: Track, { fromCue, toCue }: Piece, before: Track, after: Track): boolean {
  return (
    (fromCue === 0 || before.cues[0] === after.cues[0]) &&
    (toCue === track.cues.length || before.cues.at(-1) === after.cues.at(-1))
  );
}

const cutOut = (track: Track, { fromCue, toCue, fromWord, toWord }: Piece): Track => ({
  ...track,
  cues: track.cues.slice(fromCue, toCue),
  words: track.words.slice(fromWord, toWord)
});

function putBack(track: Track, pieces: readonly (Piece & { readonly after: Track })[]): Track {
  if (pieces.length === 0) return track;
  const [cues, words]: [Cue[], Word[]] = [[], []];
  let [cue, word] = [0, 0];
  for (const { fromCue, toCue, fromWord, toWord, after } of pieces) {
    cues.push(...track.cues.slice(cue, fromCue), ...after.cues);
    words.push(...track.words.slice(word, fromWord), ...after.words);
    [cue, word] = [toCue, toWord];
  }
  return { ...track, cues: [...cues, ...track.cues.slice(cue)], words: [...words, ...track.words.slice(word)] };
}

/** What can be said in one command is: each one walks over the whole track when it is resolved. */
function join(commands: readonly ClientCommand[]): readonly ClientCommand[] {
  const joined: ClientCommand[] = [];
  let timed = new Set<string>();
  for (const command of commands) {
    const last = joined.at(-1);
    if (command.type === 'timeCues') {
      const ids = command.times.map(({ cueId }) => cueId);
      if (last?.type === 'timeCues' && !ids.some((id) => timed.has(id)))
        joined[joined.length - 1] = { ...last, times: [...last.times, ...command.times] };
      else {
        timed = new Set();
        joined.push(command);
      }
      for (const id of ids) timed.add(id);
    } else if (command.type === 'setWordsShown' && last?.type === 'setWordsShown' && last.shown === command.shown)
      joined[joined.length - 1] = { ...last, wordIds: [...last.wordIds, ...command.wordIds] };
    else joined.push(command);
  }
  return joined;
}

interface Asked {
  readonly finding: Finding;
  /** The place of its cue. */
  readonly at: number;
  readonly checks: readonly Running[];
}

const seenIn = (checks: readonly Running[], track: Track): readonly Running[] =>
  checks.map((one) => ({ ...one, given: { ...one.given, track } }));

/** `null` where nothing mends it: nothing is known, or something else would be worse. */
function mendOne(
  track: Track,
  { finding, at, checks }: Asked,
  setting: Setting
): { readonly after: Track; readonly commands: readonly ClientCommand[] } | null {
  const here = seenIn(checks, track);
  const one = here.find(({ check }) => check.id === finding.rule);
  if (one === undefined) return null;
  const check = one.check as CueCheck;
  if (check.mend === undefined) return null;
  const view = viewOf(track, at);
  // It may be another one than when it was found: in its place, its word and its figures.
  const found = [check.look(view, one.given)].flat().filter((item): item is Found => item !== null);
  const same = found.find(({ word }) => (word?.id ?? null) === finding.wordId);
  if (same === undefined) return null;
  const commands = check
    .mend(view, one.given, same)
    .map((command) => completeCommand(track, command, { mint: setting.mint, atMs: setting.atMs }));
  if (commands.length === 0) return null;
  const done = tryCommands(track, commands);
  if (!done.ok) return null;
  const after = done.value;
  return isBetter(track, after, { finding, checks }) ? { after, commands } : null;
}

/** Whether the finding is gone, and nothing in its piece of the track is new or farther from its limit. */
function isBetter(before: Track, after: Track, { checks, finding }: Omit<Asked, 'at'>): boolean {
  const findingsIn = (track: Track): readonly Finding[] => {
    const here = seenIn(checks, track);
    return track.cues.flatMap((_, at) => checkView(here, viewOf(track, at)));
  };
  const [old, now] = [findingsIn(before), findingsIn(after)];
  const farthest = (list: readonly Finding[]): ReadonlyMap<string, { count: number; off: number }> => {
    const kinds = new Map<string, { count: number; off: number }>();
    for (const { rule, value, limit } of list) {
      const off = value === null || limit === null ? 0 : Math.abs(value - limit);
      const known = kinds.get(rule);
      kinds.set(rule, { count: (known?.count ?? 0) + 1, off: Math.max(known?.off ?? 0, off) });
    }
    return kinds;
  };
  const [was, is] = [farthest(old), farthest(now)];
  if ((is.get(finding.rule)?.count ?? 0) >= was.get(finding.rule)!.count) return false;
  for (const [rule, { count, off }] of is) {
    const known = was.get(rule);
    if (known === undefined || count > known.count || off > known.off) return false;
  }
  return true;
}
