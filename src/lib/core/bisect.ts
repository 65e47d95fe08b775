/** Index of the first of `count` items for which `holds` does, where it does for all behind it; `count` where it does for none. */
export function firstWhere(count: number, holds: (at: number) => boolean): number {
  let [low, high] = [0, count];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
