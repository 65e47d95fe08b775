/** Finding the changes that make one document of another: what a command did, as data that replays without choosing. */
import type { ChangeOf, ItemSet, ListItem, Shape, Stretch } from './change';

/** The changes from a document to another of the same shape; none where they are the same. */
export function changesBetween<D extends object, S extends Shape>(before: D, after: D, shape: S): ChangeOf<S>[] {
  const changes: unknown[] = [];
  const old = before as Record<string, unknown>;
  const now = after as Record<string, unknown>;
  for (const list of Object.keys(shape.lists)) {
    const { stretches, items } = compareLists(old[list] as readonly ListItem[], now[list] as readonly ListItem[]);
    if (stretches.length > 0) changes.push({ type: 'splice', list, stretches });
    if (items.length > 0) changes.push({ type: 'set', list, items });
  }
  const fields = changedFields(old, now, Object.keys(shape.fields));
  if (fields !== null) changes.push({ type: 'fields', fields });
  return changes as ChangeOf<S>[];
}

interface Compared {
  /** By the list before. */
  readonly stretches: readonly Stretch[];
  /** By the list after. */
  readonly items: readonly ItemSet[];
}

/**
 * Lists share most of their items, in order: their head and tail are passed over first. Between them, where the two
 * differ, the item that is farther from its place in the other list is the one that has moved.
 */
function compareLists(before: readonly ListItem[], after: readonly ListItem[]): Compared {
  const stretches: Stretch[] = [];
  const items: ItemSet[] = [];
  if (before === after) return { stretches, items };
  const keep = (from: number, to: number): void => {
    const [item, next] = [before[from]!, after[to]!];
    if (item === next) return;
    const changed = changedFields(item, next, Object.keys(next));
    if (changed !== null) items.push({ at: to, id: next.id, to: changed });
  };
  const shorter = Math.min(before.length, after.length);
  let head = 0;
  for (; head < shorter && isSameItem(before[head]!, after[head]!); head++)
    if (before[head] !== after[head]) keep(head, head);
  let tail = 0;
  const [lastBefore, lastAfter] = [before.length - 1, after.length - 1];
  while (tail < shorter - head && isSameItem(before[lastBefore - tail]!, after[lastAfter - tail]!)) tail++;

  const ends = { before: before.length - tail, after: after.length - tail };
  const places = {
    before: placesOf(before, head, ends.before),
    after: placesOf(after, head, ends.after)
  };
  let [from, to] = [head, head];
  const isSame = (): boolean => from < ends.before && to < ends.after && before[from]!.id === after[to]!.id;
  while (from < ends.before || to < ends.after) {
    if (isSame()) {
      keep(from++, to++);
      continue;
    }
    const start = { from, to };
    while ((from < ends.before || to < ends.after) && !isSame()) {
      const goes = from < ends.before ? (places.after.get(before[from]!.id) ?? -1) : Number.POSITIVE_INFINITY;
      const comes = to < ends.after ? (places.before.get(after[to]!.id) ?? -1) : Number.POSITIVE_INFINITY;
      // An item missing on the other side is taken or put at once; otherwise the side whose match is nearer waits.
      if (from < ends.before && (goes < to || to >= ends.after)) from++;
      else if (to < ends.after && (comes < from || from >= ends.before)) to++;
      else if (goes - to <= comes - from) to++;
      else from++;
    }
    stretches.push({
      at: start.from,
      afterId: before[start.from - 1]?.id ?? null,
      take: before.slice(start.from, from).map((item) => item.id),
      put: after.slice(start.to, to)
    });
  }
  for (let at = ends.before; at < before.length; at++) keep(at, at - ends.before + ends.after);
  return { stretches, items };
}

/** Most items are the very same object: their ids are not even read. */
const isSameItem = (a: ListItem, b: ListItem): boolean => a === b || a.id === b.id;

function placesOf(list: readonly ListItem[], from: number, to: number): Map<string, number> {
  const places = new Map<string, number>();
  for (let at = from; at < to; at++) places.set(list[at]!.id, at);
  return places;
}

/** The changed fields with their new values; `null` if none has changed. */
function changedFields(before: object, after: object, names: readonly string[]): Record<string, unknown> | null {
  const old = before as Readonly<Record<string, unknown>>;
  const now = after as Readonly<Record<string, unknown>>;
  let changed: Record<string, unknown> | null = null;
  for (const name of names) {
    if (old[name] === now[name]) continue;
    if (typeof now[name] === 'object' && JSON.stringify(old[name]) === JSON.stringify(now[name])) continue;
    changed ??= {};
    changed[name] = now[name];
  }
  return changed;
}
