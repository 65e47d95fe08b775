/** Longer than the pause between two keys while somebody is working. */
const REST_MS = 400;

/** Runs work once no key has been pressed for a while and the page is idle; returns a function that cancels it. */
export function whenHandsRest(work: () => void): () => void {
  let idle = 0;
  const timer = setTimeout(() => (idle = requestIdleCallback(work)), REST_MS);
  return () => {
    clearTimeout(timer);
    cancelIdleCallback(idle);
  };
}
