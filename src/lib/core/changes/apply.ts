import { fail, ok, type Result } from '../result';
import type { ChangeOf, ItemSet, ListItem, Shape, Stretch } from './change';

/** The change was made for another state of the document. */
export interface ChangeProblem {
  readonly code: 'does_not_fit';
  readonly message: string;
}

/** The document with the changes done in order, and the changes that take them back to the byte. */
export interface AppliedChanges<D, C> {
  readonly document: D;
  readonly inverse: readonly C[];
}

const doesNotFit = (what: string): Result<never, ChangeProblem> =>
  fail({ code: 'does_not_fit', message: `What is to be put back does not fit any more: ${what}.` });

/**
 * All changes in order, or none. Items that no change touches keep their identity. The same changes on the same
 * document give the same bytes.
 */
export function applyChanges<D extends object, S extends Shape>(
  document: D,
  changes: readonly ChangeOf<S>[]
): Result<AppliedChanges<D, ChangeOf<S>>, ChangeProblem> {
  // The shape names lists and fields that its document has; the types cannot express that.
  let now = document as Record<string, unknown>;
  const inverse: unknown[] = [];
  for (const change of changes) {
    if (change.type === 'fields') {
      const before = Object.fromEntries(Object.keys(change.fields).map((field) => [field, now[field]]));
      now = { ...now, ...change.fields };
      inverse.unshift({ type: 'fields', fields: before });
      continue;
    }
    const list = now[change.list] as readonly ListItem[];
    const done = change.type === 'splice' ? splice(list, change.stretches) : set(list, change.items);
    if (!done.ok) return done;
    now = { ...now, [change.list]: done.value.list };
    inverse.unshift(
      change.type === 'splice'
        ? { type: 'splice', list: change.list, stretches: done.value.back }
        : { type: 'set', list: change.list, items: done.value.back }
    );
  }
  return ok({ document: now as D, inverse: inverse as ChangeOf<S>[] });
}

interface Done {
  readonly list: readonly ListItem[];
  readonly back: readonly Stretch[] | readonly ItemSet[];
}

function splice(list: readonly ListItem[], stretches: readonly Stretch[]): Result<Done, ChangeProblem> {
  let next: ListItem[] = [];
  const back: Stretch[] = [];
  let done = 0;
  for (const stretch of stretches) {
    const at = placeOf(list, stretch, done);
    if (at === null) return doesNotFit(`an item that stood behind ${stretch.afterId ?? 'the beginning'} is gone`);
    next = next.concat(list.slice(done, at));
    const taken = list.slice(at, at + stretch.take.length);
    back.push({
      at: next.length,
      afterId: stretch.afterId,
      take: stretch.put.map((item) => item.id),
      put: taken
    });
    next = next.concat(stretch.put);
    done = at + taken.length;
  }
  return ok({ list: next.concat(list.slice(done)), back });
}

/** The place where a stretch begins now, not before `from`; `null` if the items it takes are not there. */
function placeOf(list: readonly ListItem[], { at, afterId, take }: Stretch, from: number): number | null {
  const isAhead = (place: number): boolean => (list[place - 1]?.id ?? null) === afterId;
  const place =
    at >= from && at <= list.length && isAhead(at)
      ? at
      : afterId === null
        ? 0
        : list.findIndex((item) => item.id === afterId) + 1;
  const isFound = place >= from && isAhead(place) && take.every((id, step) => list[place + step]?.id === id);
  return isFound ? place : null;
}

function set(list: readonly ListItem[], items: readonly ItemSet[]): Result<Done, ChangeProblem> {
  const next = [...list];
  const back: ItemSet[] = [];
  for (const { at: guess, id, to } of items) {
    const at = list[guess]?.id === id ? guess : list.findIndex((item) => item.id === id);
    const item = next[at] as Readonly<Record<string, unknown>> & ListItem;
    if (at < 0) return doesNotFit(`the item ${id} is gone`);
    back.push({ at, id, to: Object.fromEntries(Object.keys(to).map((field) => [field, item[field]])) });
    next[at] = { ...item, ...to };
  }
  return ok({ list: next, back });
}
