/** Captions on a video site: what is asked, and whether its viewers get what was handed over. */
import { z } from 'zod';
import type { FileCue } from '../formats';
import { trackIdSchema } from '../id';

export const publishRequestSchema = z
  .object({
    trackId: trackIdSchema,
    videoId: z.string().min(1).max(100),
    /** BCP 47, as the site has it. */
    language: z.string().min(2).max(35),
    /** As viewers read it in the menu. */
    name: z.string().trim().min(1).max(100),
    /** Shown by itself. */
    isDefault: z.boolean(),
    /** Sent, but not shown to viewers yet. */
    isDraft: z.boolean(),
    /** What was published before, to be so again; left out: the track as it is. */
    publicationId: z.string().max(64).optional()
  })
  .readonly();
export type PublishRequest = z.infer<typeof publishRequestSchema>;

/** The tag of a site that captions of a language belong under: its own, else that of the language alone; `null`: none does. */
export function siteLanguage(tag: string, offered: readonly string[]): string | null {
  const known = (wanted: string): string | undefined =>
    offered.find((one) => one.toLowerCase() === wanted.toLowerCase());
  return known(tag) ?? known(tag.split('-')[0]!) ?? null;
}

export interface ShownCue {
  readonly startMs: number;
  readonly endMs: number;
  readonly lines: readonly string[];
}
/** A cue that viewers get otherwise; `null`: it is not there, or was not handed over. */
export interface ShownOtherwise {
  readonly handedOver: ShownCue | null;
  readonly shown: ShownCue | null;
}

const shownCue = ({ startMs, endMs, lines }: FileCue): ShownCue => ({
  ...{ startMs, endMs },
  lines: lines.map(({ markup }) => markup)
});
const sameText = (one: ShownCue, other: ShownCue): boolean => one.lines.join('\n') === other.lines.join('\n');
const sameTime = (one: ShownCue, other: ShownCue): boolean =>
  one.startMs === other.startMs && one.endMs === other.endMs;

/** Cue by cue, in order of time; what begins at once with the same text, or at the same time, is the same cue. */
export function compareShown(handedOver: readonly FileCue[], shown: readonly FileCue[]): readonly ShownOtherwise[] {
  const left = new Map<number, ShownCue[]>();
  for (const cue of shown.map(shownCue)) left.set(cue.startMs, [...(left.get(cue.startMs) ?? []), cue]);
  const take = (wanted: ShownCue): ShownCue | null => {
    const there = left.get(wanted.startMs) ?? [];
    const found = there.find((one) => sameText(one, wanted)) ?? there[0];
    if (found === undefined) return null;
    left.set(
      wanted.startMs,
      there.filter((one) => one !== found)
    );
    return found;
  };
  const otherwise: ShownOtherwise[] = [];
  for (const cue of handedOver.map(shownCue)) {
    const got = take(cue);
    if (got === null || !sameText(cue, got) || !sameTime(cue, got)) otherwise.push({ handedOver: cue, shown: got });
  }
  for (const cue of [...left.values()].flat()) otherwise.push({ handedOver: null, shown: cue });
  const startOf = (one: ShownOtherwise): number => (one.handedOver ?? one.shown!).startMs;
  return otherwise.sort((a, b) => startOf(a) - startOf(b));
}
