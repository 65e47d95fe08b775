/** Keys while somebody speaks: letters, and the same with Alt where letters type or are switched off. */
import { isTyping } from '../keys/keyboard';
import { preferences } from '../preferences.svelte';

export const NARRATION_KEYS = { record: 'KeyR', again: 'KeyA', putBack: 'KeyB', end: 'KeyE' } as const;
export type NarrationAct = keyof typeof NARRATION_KEYS;

/** As it is written on a button. */
export const keyOf = (act: NarrationAct): string =>
  `${preferences.singleLetters ? '' : 'Alt '}${NARRATION_KEYS[act].replace('Key', '')}`;

/** Listens on the window; returns a function that stops it. */
export function listenToNarrationKeys(run: (act: NarrationAct) => void): () => void {
  const onKey = (event: KeyboardEvent): void => {
    if (event.isComposing || event.repeat || event.ctrlKey || event.metaKey || event.shiftKey) return;
    if (!event.altKey && (isTyping(event.target) || !preferences.singleLetters)) return;
    const act = (Object.keys(NARRATION_KEYS) as NarrationAct[]).find((one) => NARRATION_KEYS[one] === event.code);
    if (act === undefined) return;
    event.preventDefault();
    run(act);
  };
  window.addEventListener('keydown', onKey);
  return () => window.removeEventListener('keydown', onKey);
}
