/** What would mend a finding, tried before it is offered: a mending that makes anything else worse is none. */
import { resolveCommands, type ClientCommand, completeCommand } from '../commands';
import { lookUp, type Sheet, type Track } from '../track';
import type { CueCheck } from './check';
import type { Finding, Found, Knowledge } from './finding';
import { habitsOf } from './habits';
import { checkView, running, viewOf, type Running } from './run';
import { findCheck } from './table';

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
  const check = findCheck(rule) as CueCheck | undefined;
  return check?.mend !== undefined && check.isGuess !== true;
};

/** Mends those findings of a track that can be, one after the other, each on what the ones before have left. */
export function mend(track: Track, findings: readonly Finding[], setting: Setting): Mended {
  let now = track;
  const commands: ClientCommand[] = [];
  const keys: string[] = [];
  for (const finding of findings) {
    const done = mendOne(now, finding, setting);
    if (done === null) continue;
    now = done.track;
    commands.push(...done.commands);
    keys.push(finding.key);
  }
  return { track: now, commands, keys };
}

/** `null` where nothing mends it: nothing is known, its cue is gone, or something else would be worse. */
function mendOne(track: Track, finding: Finding, setting: Setting): Omit<Mended, 'keys'> | null {
  const { checks } = running(track, setting.knowledge, setting.sheet, habitsOf(track.words));
  const one = checks.find(({ check }) => check.id === finding.rule);
  const at = finding.cueId === null ? undefined : lookUp(track).cueAt.get(finding.cueId);
  if (one === undefined || at === undefined) return null;
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
  const done = resolveCommands(track, commands);
  if (!done.ok) return null;
  const after = done.value.track;
  return isBetter(track, after, { checks, finding, at }) ? { track: after, commands } : null;
}

/** Whether the finding is gone, and nothing around it is new or farther from its limit. */
function isBetter(
  before: Track,
  after: Track,
  { checks, finding, at }: { readonly checks: readonly Running[]; readonly finding: Finding; readonly at: number }
): boolean {
  const around = nearby(before, at);
  const old = around.flatMap((index) => checkView(checks, viewOf(before, index)));
  const ids = new Set(around.map((index) => before.cues[index]!.id));
  const habits = habitsOf(after.words);
  const then = checks.map((one) => ({ ...one, given: { ...one.given, track: after, habits } }));
  const touched = after.cues.flatMap((cue, index) =>
    ids.has(cue.id) || lookUp(before).cueAt.get(cue.id) === undefined ? [index] : []
  );
  const now = touched.flatMap((index) => checkView(then, viewOf(after, index)));
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

/** A cue with those on either side of it, whose times or words a mending may touch, and theirs. */
const nearby = (track: Track, at: number): readonly number[] =>
  [at - 2, at - 1, at, at + 1, at + 2].filter((index) => index >= 0 && index < track.cues.length);
