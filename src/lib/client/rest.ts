/** Longer than the pause between two keys of a hand at work. */
const REST_MS = 400;

/** Does what can wait once the hands rest and the page is idle, so that no key waits for it; the answer calls it off. */
export function whenHandsRest(work: () => void): () => void {
  let idle = 0;
  const timer = setTimeout(() => (idle = requestIdleCallback(work)), REST_MS);
  return () => {
    clearTimeout(timer);
    cancelIdleCallback(idle);
  };
}
