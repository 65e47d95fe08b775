/** Something of a list, by its key, that is made from what is listed in `from` and from nothing else that changes. */
export interface Made<T> {
  readonly key: string;
  readonly from: readonly unknown[];
  readonly make: () => T;
}

/**
 * Makes the items of a list, and gives those of last time that are made from the very same things; where all are, the
 * former list. At each key every row is asked for what it shows and mostly one has changed: what is drawn from the
 * others is not even looked at.
 */
export function remembering<T>(): (items: readonly Made<T>[]) => readonly T[] {
  let kept = new Map<string, { readonly from: readonly unknown[]; readonly made: T }>();
  let last: readonly T[] = [];
  return (items) => {
    const next = new Map(
      items.map(({ key, from, make }) => {
        const former = kept.get(key);
        return [key, former !== undefined && isSame(former.from, from) ? former : { from, made: make() }];
      })
    );
    const list = [...next.values()].map(({ made }) => made);
    kept = next;
    if (!isSame(last, list)) last = list;
    return last;
  };
}

const isSame = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((item, at) => item === b[at]);
