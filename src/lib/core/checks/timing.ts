/** Is it there when it is spoken, long enough, and clear of its neighbours and of the picture's changes. */
import type { Track, Word } from '../track';
import { bestSplit } from './reading';
import { defineCheck, seconds, type Check } from './check';
import type { CueView } from './finding';
import { lengthenTo, roomOf, timed } from './moves';

/** The first and last word whose times are known from the sound. */
function heardEdges({ words }: CueView): { readonly first: Word; readonly last: Word } | null {
  const heard = words.filter((word) => word.timing !== 'estimated' && word.kind === 'speech');
  return heard.length === 0 ? null : { first: heard[0]!, last: heard.at(-1)! };
}

/** How far before the next cue this one ends; `null` for the last one. */
const gapBehind = ({ cue, next }: CueView): number | null => (next === null ? null : next.cue.startMs - cue.endMs);

/** The change of the picture that is nearest to a time. */
function nearestShot(shotsMs: readonly number[], ms: number): number | null {
  let [from, to] = [0, shotsMs.length];
  while (from < to) {
    const middle = (from + to) >> 1;
    if (shotsMs[middle]! < ms) from = middle + 1;
    else to = middle;
  }
  const [before, after] = [shotsMs[from - 1], shotsMs[from]];
  if (before === undefined) return after ?? null;
  return after === undefined || ms - before <= after - ms ? before : after;
}

const lingerOf = (track: Track): number => Math.max(track.rules.lingerMs, track.rules.minDurationMs);

export const timingChecks: readonly Check[] = [
  defineCheck({
    id: 'min_duration',
    group: 'timing',
    title: 'Too short on screen',
    severity: 'warning',
    numbers: { least: { label: 'At least', unit: 'ms', least: 1, most: 60_000, value: { rule: 'minDurationMs' } } },
    look: ({ lengthMs }, { numbers: { least } }) =>
      lengthMs < least
        ? {
            value: lengthMs,
            limit: least,
            message: `On screen for ${seconds(lengthMs)}; the least is ${seconds(least)}.`
          }
        : null,
    mend: (view, given) => lengthenTo(view, given, given.numbers.least)
  }),
  defineCheck({
    id: 'max_duration',
    group: 'timing',
    title: 'Too long on screen',
    severity: 'warning',
    numbers: { most: { label: 'At most', unit: 'ms', least: 100, most: 600_000, value: { rule: 'maxDurationMs' } } },
    look: ({ lengthMs }, { numbers: { most } }) =>
      lengthMs > most
        ? { value: lengthMs, limit: most, message: `On screen for ${seconds(lengthMs)}; the most is ${seconds(most)}.` }
        : null,
    mend(view, { track, numbers: { most } }) {
      const spokenToMs = heardEdges(view)?.last.endMs ?? view.cue.startMs;
      return spokenToMs <= view.cue.startMs + most
        ? timed(view, { endMs: view.cue.startMs + most })
        : bestSplit(view, track);
    }
  }),
  defineCheck({
    id: 'min_gap',
    group: 'timing',
    title: 'Too near to the next cue',
    severity: 'warning',
    numbers: { least: { label: 'At least', unit: 'ms', least: 0, most: 5000, value: { rule: 'minGapMs' } } },
    look({ before, cue }, { numbers: { least } }) {
      const value = before === null ? Infinity : cue.startMs - before.cue.endMs;
      const message = `${value} ms behind the cue ahead of it; the least gap is ${least} ms.`;
      return value >= 0 && value < least ? { value, limit: least, message } : null;
    },
    mend: ({ before, cue }, { numbers: { least } }) => timed(before!, { endMs: cue.startMs - least })
  }),
  defineCheck({
    id: 'flicker',
    group: 'timing',
    title: 'A gap that flickers',
    severity: 'off',
    numbers: { most: { label: 'Gaps shorter than', unit: 'ms', least: 1, most: 5000, value: 500 } },
    look(view, { track, numbers: { most } }) {
      const value = gapBehind(view);
      const message = `${value} ms before the next cue: seen as a flicker. Close it, or leave ${most} ms.`;
      return value !== null && value > track.rules.minGapMs && value < most ? { value, limit: most, message } : null;
    },
    mend: (view, given) => timed(view, { endMs: roomOf(view, given).endMs })
  }),
  defineCheck({
    id: 'overlap',
    group: 'timing',
    title: 'Lies over another cue',
    severity: 'error',
    look({ before, cue }) {
      const value = before === null ? 0 : before.cue.endMs - cue.startMs;
      return value > 0
        ? { value, limit: 0, message: `Begins ${seconds(value)} before the cue ahead of it ends.` }
        : null;
    },
    mend: ({ before, cue }, { track }) => timed(before!, { endMs: cue.startMs - track.rules.minGapMs })
  }),
  defineCheck({
    id: 'late_start',
    group: 'timing',
    title: 'Starts after its first word',
    severity: 'warning',
    numbers: { most: { label: 'Later by at most', unit: 'ms', least: 0, most: 5000, value: 200 } },
    look(view, { numbers: { most } }) {
      const value = view.cue.startMs - (heardEdges(view)?.first.startMs ?? view.cue.startMs);
      return value > most
        ? { value, limit: most, message: `Starts ${value} ms after its first word; the most is ${most} ms.` }
        : null;
    },
    mend: (view, given) =>
      timed(view, { startMs: Math.max(heardEdges(view)!.first.startMs, roomOf(view, given).startMs) })
  }),
  defineCheck({
    id: 'early_start',
    group: 'timing',
    title: 'Starts before the voice',
    severity: 'hint',
    numbers: { most: { label: 'Earlier by at most', unit: 'ms', least: 0, most: 10_000, value: 300 } },
    look(view, { numbers: { most } }) {
      const value = (heardEdges(view)?.first.startMs ?? view.cue.startMs) - view.cue.startMs;
      return value > most
        ? { value, limit: most, message: `Starts ${value} ms before its first word; the most is ${most} ms.` }
        : null;
    },
    mend: (view) => timed(view, { startMs: heardEdges(view)!.first.startMs })
  }),
  defineCheck({
    id: 'off_words',
    group: 'timing',
    title: 'Ends before its words do',
    severity: 'warning',
    numbers: { most: { label: 'Earlier by at most', unit: 'ms', least: 0, most: 10_000, value: 300 } },
    look(view, { numbers: { most } }) {
      const value = (heardEdges(view)?.last.endMs ?? view.cue.endMs) - view.cue.endMs;
      return value > most
        ? { value, limit: most, message: `Ends ${value} ms before its last word does; the most is ${most} ms.` }
        : null;
    },
    mend: (view, given) => timed(view, { endMs: Math.min(heardEdges(view)!.last.endMs, roomOf(view, given).endMs) })
  }),
  defineCheck({
    id: 'lingers',
    group: 'timing',
    title: 'Stays long after it was said',
    severity: 'hint',
    numbers: { most: { label: 'After its last word', unit: 'ms', least: 0, most: 20_000, value: 1500 } },
    look(view, { track, numbers: { most } }) {
      const spoken = heardEdges(view);
      if (spoken === null) return null;
      const value = view.cue.endMs - spoken.last.endMs;
      // What is needed to be read is not too long.
      const neededMs = Math.ceil((view.characters / track.rules.maxCharsPerSecond) * 1000);
      return value > Math.max(most, lingerOf(track)) && view.lengthMs > Math.max(neededMs, track.rules.minDurationMs)
        ? { value, limit: most, message: `Stays ${seconds(value)} after its last word; the most is ${seconds(most)}.` }
        : null;
    },
    mend(view, { track }) {
      const neededMs = Math.ceil((view.characters / track.rules.maxCharsPerSecond) * 1000);
      const heardToMs = heardEdges(view)!.last.endMs + track.rules.lingerMs;
      return timed(view, {
        endMs: Math.max(heardToMs, view.cue.startMs + Math.max(neededMs, track.rules.minDurationMs))
      });
    }
  }),
  defineCheck({
    id: 'near_shot',
    group: 'timing',
    title: 'Just over a change of the picture',
    needs: ['shots'],
    severity: 'warning',
    numbers: { frames: { label: 'Nearer than', unit: 'frames', least: 1, most: 50, value: 12 } },
    look: ({ cue }, { knowledge: { shotsMs, frameMs }, numbers: { frames } }) =>
      (['startMs', 'endMs'] as const).flatMap((edge) => {
        const shot = nearestShot(shotsMs!, cue[edge]);
        const value = shot === null ? 0 : Math.round(Math.abs(cue[edge] - shot) / frameMs);
        const what = edge === 'startMs' ? 'Starts' : 'Ends';
        return value > 0 && value <= frames
          ? [{ value, limit: frames, message: `${what} ${value} frames from a change of the picture.` }]
          : [];
      }),
    mend(view, { knowledge: { shotsMs, frameMs }, track, numbers: { frames } }) {
      const reach = (ms: number): number => {
        const shot = nearestShot(shotsMs!, ms);
        return shot !== null && Math.abs(shot - ms) <= (frames + 0.5) * frameMs ? shot : ms;
      };
      const startMs = reach(view.cue.startMs);
      const endMs = reach(view.cue.endMs);
      const gapMs = track.rules.minGapMs;
      const { before, next } = view;
      if (before !== null && startMs < Math.min(before.cue.endMs + gapMs, view.cue.startMs)) return [];
      if (next !== null && endMs > Math.max(next.cue.startMs - gapMs, view.cue.endMs)) return [];
      return timed(view, { startMs, endMs });
    }
  }),
  defineCheck({
    id: 'empty_cue',
    group: 'timing',
    title: 'Shows no text',
    severity: 'warning',
    look: ({ words }) => (words.length === 0 ? { message: 'The cue shows no text.' } : null),
    mend: ({ cue }) => (cue.wordIds.length === 0 ? [{ type: 'removeCue', cueId: cue.id }] : [])
  }),
  defineCheck({
    id: 'said_twice',
    group: 'timing',
    title: 'The same text as the cue ahead',
    severity: 'warning',
    look({ text, before }, { track }) {
      if (before === null || text === '' || before.text !== text) return null;
      return text.length > track.rules.maxCharsPerLine / 2
        ? { message: 'The cue ahead of it shows the same text.' }
        : null;
    }
  })
];
