/** When what is not waited for is done. */

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

/**
 * Work that follows the next frame: what was typed is on the screen first. However often it is asked for, it is done once
 * behind each frame.
 */
export function behindFrames(work: () => void): { readonly ask: () => void; readonly cancel: () => void } {
  let [frame, timer] = [0, 0];
  const run = (): void => {
    frame = 0;
    work();
  };
  return {
    ask: () => {
      if (frame === 0) frame = requestAnimationFrame(() => (timer = window.setTimeout(run)));
    },
    cancel: () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
      frame = 0;
    }
  };
}
