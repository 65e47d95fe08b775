import type { Ms } from '$lib/core/time';

/**
 * Index of the next or the previous of items in order, round and round: from the one in hand (`at`), else (-1) from the
 * playhead. There is at least one.
 */
export function stepRound(
  items: readonly { readonly startMs: Ms }[],
  by: 1 | -1,
  { at, nowMs }: { readonly at: number; readonly nowMs: Ms }
): number {
  const ahead = items.findIndex((item) => item.startMs >= nowMs);
  const fromPlayhead = by > 0 ? Math.max(0, ahead) : (ahead < 0 ? items.length : ahead) - 1;
  return ((at >= 0 ? at + by : fromPlayhead) + items.length) % items.length;
}
