/** Letters that their faces lack, each told once: of what is on the picture, and of a whole track. */
import { fontKey, type FontFile } from '../faces';
import { graphemes, type Track } from '../track';
import { blockOf, type SpanStyle } from './block';
import { itemise, type Fonts, type Lacking } from './itemise';

/** Letters by the face that lacks them and the one that draws them; `null`: none does. */
export interface LackingLetters {
  readonly face: string;
  readonly drawnIn: string | null;
  readonly letters: readonly string[];
}

/** `wanted`: fonts that must be loaded before all of it can be told. */
export function findLacking(
  track: Track,
  fonts: Fonts
): { readonly lacking: readonly LackingLetters[]; readonly wanted: readonly FontFile[] } {
  const seen = new Map<string, { readonly style: SpanStyle; readonly letters: Set<string> }>();
  for (const cue of track.cues)
    for (const { text, style } of blockOf(track, cue).lines.flat()) {
      const key = `${style.face} ${style.weight} ${style.italic}`;
      const { letters } = seen.get(key) ?? { letters: new Set<string>() };
      seen.set(key, { style, letters });
      for (const { segment } of graphemes.segment(text)) letters.add(segment);
    }
  const lacking: Lacking[] = [];
  const wanted = new Map<string, FontFile>();
  for (const { style, letters } of seen.values())
    for (const letter of letters) {
      const found = itemise([{ text: letter, word: 0, style }], track.language, fonts);
      for (const file of found.wanted) wanted.set(fontKey(file), file);
      lacking.push(...found.lacking);
    }
  return { lacking: groupLacking(lacking), wanted: [...wanted.values()] };
}

/** Each letter once, by the face that lacks it and the one that draws it. */
export function groupLacking(lacking: readonly Lacking[]): readonly LackingLetters[] {
  const groups = new Map<string, { face: string; drawnIn: string | null; letters: Set<string> }>();
  for (const { text, face, drawnIn } of lacking) {
    const group = groups.get(`${face} ${drawnIn}`) ?? { face, drawnIn, letters: new Set<string>() };
    groups.set(`${face} ${drawnIn}`, group);
    group.letters.add(text);
  }
  return [...groups.values()].map(({ letters, ...rest }) => ({ ...rest, letters: [...letters] }));
}
