import { tokenize, type Track } from '../track';
import type { ClientEdit } from './edit';
import { textTokens } from './rewrite';

/**
 * The edit with every id and time it needs. `mint` gives a new UUID at each call; `atMs` is the time of day in
 * milliseconds since 1970. What the caller set stays.
 */
export function completeEdit(track: Track, edit: ClientEdit, mint: () => string, atMs: number): ClientEdit {
  const ids = (count: number): readonly string[] => Array.from({ length: count }, mint);
  const countLines = (lines: readonly string[]): number =>
    lines.reduce((sum, line) => sum + tokenize(line, track.language).length, 0);
  switch (edit.type) {
    case 'setWordText':
      return { ...edit, atMs: edit.atMs ?? atMs };
    case 'replaceWords':
      return {
        ...edit,
        atMs: edit.atMs ?? atMs,
        newWordIds: edit.newWordIds ?? ids(textTokens(edit.text, track.language).length)
      };
    case 'setCueText':
      return { ...edit, atMs: edit.atMs ?? atMs, newWordIds: edit.newWordIds ?? ids(countLines(edit.lines)) };
    case 'addCue':
      return {
        ...edit,
        atMs: edit.atMs ?? atMs,
        newCueId: edit.newCueId ?? mint(),
        newWordIds: edit.newWordIds ?? ids(countLines(edit.lines))
      };
    case 'splitCue':
      return { ...edit, newCueId: edit.newCueId ?? mint() };
    case 'addSpeaker':
      return { ...edit, newSpeakerId: edit.newSpeakerId ?? mint() };
    default:
      return edit;
  }
}

/**
 * The ids an edit mints, all of those it brings where `isKnown` is left out: none of them may have been used in the
 * track before.
 */
export function newIdsOf(edit: ClientEdit, isKnown?: (cueId: string) => boolean): readonly string[] {
  switch (edit.type) {
    case 'replaceWords':
    case 'setCueText':
      return edit.newWordIds ?? [];
    case 'addCue':
      return [...(edit.newCueId === undefined ? [] : [edit.newCueId]), ...(edit.newWordIds ?? [])];
    case 'setCues':
      return edit.cues.map((cue) => cue.id).filter((id) => isKnown?.(id) !== true);
    case 'splitCue':
      return edit.newCueId === undefined ? [] : [edit.newCueId];
    case 'addSpeaker':
      return edit.newSpeakerId === undefined ? [] : [edit.newSpeakerId];
    default:
      return [];
  }
}
