/** What the processes share that do one piece of work for the server: they are asked once, and end with it. */

/** What the server asks for. A server that is gone wants nothing any more. */
export const asked = (): Promise<unknown> => {
  process.once('disconnect', () => process.exit());
  return new Promise((resolve) => process.once('message', resolve));
};

export const tellProgress = (progress: number): void => void process.send?.({ type: 'progress', progress });
export const tellDone = (): void => void process.send?.({ type: 'done' });
