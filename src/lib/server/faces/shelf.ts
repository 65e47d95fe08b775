/** Fonts for who draws on the server: opened when they are first asked for, from files that are there. */
import { readFileSync } from 'node:fs';
import * as harfbuzz from 'harfbuzzjs';
import { parseFontKey, SHIPPED_FACES, type Face } from '$lib/core/faces';
import { openFont, type Font, type Fonts } from '$lib/core/layout';
import { shippedFontPath } from './shipped';

/** `own`: faces of the house, with the file of each. */
export function fontShelf(own: readonly { readonly face: Face; readonly path: string }[] = []): Fonts {
  const fonts = new Map<string, Font>();
  const pathOf = (key: string): string => {
    const file = parseFontKey(key);
    const ours = own.find(({ face }) => face.id === file?.faceId);
    const path = ours?.path ?? (file === null ? null : shippedFontPath(file));
    if (path === null) throw new Error(`no font file is called ${key}`);
    return path;
  };
  return {
    faces: [...SHIPPED_FACES, ...own.map(({ face }) => face)],
    find: (key) => {
      const font = fonts.get(key) ?? openFont(harfbuzz, key, new Uint8Array(readFileSync(pathOf(key))));
      fonts.set(key, font);
      return font;
    }
  };
}
