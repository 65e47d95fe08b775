/** The scripts of characters, by ISO 15924, as Unicode's own tables in the engine give them. */
const SCRIPTS = [
  ['Latn', /\p{Script=Latin}/u],
  ['Hani', /\p{Script=Han}/u],
  ['Arab', /\p{Script=Arabic}/u],
  ['Cyrl', /\p{Script=Cyrillic}/u],
  ['Grek', /\p{Script=Greek}/u],
  ['Hebr', /\p{Script=Hebrew}/u],
  ['Deva', /\p{Script=Devanagari}/u],
  ['Thai', /\p{Script=Thai}/u],
  ['Hira', /\p{Script=Hiragana}/u],
  ['Kana', /\p{Script=Katakana}/u],
  ['Hang', /\p{Script=Hangul}/u]
] as const;
const SHARED = /[\p{Script=Common}\p{Script=Inherited}]/u;
const EMOJI = /\p{Emoji_Presentation}|\p{Extended_Pictographic}\ufe0f|\p{Regional_Indicator}/u;

/** Without a form of their own: a font need not have them. */
const IGNORED = /\p{Default_Ignorable_Code_Point}/u;

const known = new Map<string, string | null>();

/** The script of a cluster; `null` where it goes with what stands beside it, `Zzzz` for one that is not in the table. */
export function scriptOf(cluster: string): string | null {
  const before = known.get(cluster);
  if (before !== undefined) return before;
  const first = String.fromCodePoint(cluster.codePointAt(0)!);
  const script = SHARED.test(first) ? null : (SCRIPTS.find(([, pattern]) => pattern.test(first))?.[0] ?? 'Zzzz');
  if (known.size < 10_000) known.set(cluster, script);
  return script;
}

export const isEmoji = (cluster: string): boolean => EMOJI.test(cluster);

export const needsGlyph = (character: string): boolean => !IGNORED.test(character);
