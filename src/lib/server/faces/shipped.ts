/** Where the font files of the faces that ship lie: whole static files, as their packages have them. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { nearestFile, SHIPPED_FACES, type FontFile } from '$lib/core/faces';

/** Package and file name of each face. */
const PACKAGES: Readonly<Record<string, readonly [folder: string, file: string]>> = {
  atkinson: ['atkinson-hyperlegible-next', 'AtkinsonHyperlegibleNext'],
  lexend: ['lexend', 'Lexend'],
  noto: ['noto-sans', 'NotoSans'],
  source: ['source-sans-3', 'SourceSans3'],
  work: ['work-sans', 'WorkSans'],
  zilla: ['zilla-slab', 'ZillaSlab'],
  literata: ['literata', 'Literata'],
  nunito: ['nunito', 'Nunito'],
  barlow: ['barlow-condensed', 'BarlowCondensed'],
  anton: ['anton', 'Anton'],
  caveat: ['caveat', 'Caveat'],
  jetbrains: ['jetbrains-mono', 'JetBrainsMono'],
  fredoka: ['fredoka', 'Fredoka'],
  'noto-arabic': ['noto-sans-arabic', 'NotoSansArabic'],
  'noto-hebrew': ['noto-sans-hebrew', 'NotoSansHebrew'],
  'noto-devanagari': ['noto-sans-devanagari', 'NotoSansDevanagari'],
  'noto-thai': ['noto-sans-thai', 'NotoSansThai'],
  'noto-jp': ['noto-sans-jp', 'NotoSansJP'],
  'noto-kr': ['noto-sans-kr', 'NotoSansKR'],
  'noto-sc': ['noto-sans-sc', 'NotoSansSC'],
  'noto-emoji': ['noto-emoji', 'NotoEmoji'],
  'noto-signs': ['noto-sans-math', 'NotoSansMath']
};

const WEIGHT_NAMES = [
  ...['Thin', 'ExtraLight', 'Light', 'Regular', 'Medium', 'SemiBold', 'Bold', 'ExtraBold', 'Black']
];

const { resolve } = createRequire(import.meta.url);

/** `null` where no shipped face has this file. */
export function shippedFontPath(file: FontFile): string | null {
  const face = SHIPPED_FACES.find(({ id }) => id === file.faceId);
  if (face === undefined || nearestFile(face, file.weight, file.italic).weight !== file.weight) return null;
  if (file.italic && face.italicWeights.length === 0) return null;
  const [folder, name] = PACKAGES[face.id]!;
  const cut = `${file.weight}${WEIGHT_NAMES[file.weight / 100 - 1]}${file.italic ? '_Italic' : ''}`;
  return join(dirname(resolve(`@expo-google-fonts/${folder}/package.json`)), cut, `${name}_${cut}.ttf`);
}
