/** A key that is down: its release is heard, or that the window lost it, when nobody can tell any more. */
export function untilReleased({ released, lost }: { readonly released: () => void; readonly lost: () => void }): void {
  const over = new AbortController();
  const end = (tell: () => void) => (): void => {
    over.abort();
    tell();
  };
  const { signal } = over;
  window.addEventListener('keyup', end(released), { signal });
  window.addEventListener('blur', end(lost), { signal });
  document.addEventListener('visibilitychange', end(lost), { signal });
}
