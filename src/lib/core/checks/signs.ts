/** Signs: one kind of dash, ellipsis and quotation mark; pairs that close; nothing that is unseen, broken or not to be had. */
import type { ClientCommand } from '../commands';
import { primarySubtag, type Word } from '../track';
import { defineCheck, defineTrackCheck, type Check } from './check';
import type { CueView, Found } from './finding';
import { DASH, ELLIPSIS, quotesOf, type Habits } from './habits';

/**
 * Not seen: controls, soft hyphen, zero width space, marks of direction, word joiner, byte-order mark. Joiners (U+200C,
 * U+200D) are part of emoji and of Arabic and Indic words.
 */
// eslint-disable-next-line no-control-regex -- controls are what is looked for
const UNSEEN = /[\u0000-\u001f\u007f-\u009f\u00ad\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff\ufff9-\ufffb]/gu;
/** The sign for what could not be read, private ones, and UTF-8 that was read as Windows-1252. */
const BROKEN = /[\ufffd\ue000-\uf8ff]|[ÃÂ][\u0080-\u00bf]|â€/u;
const MARKUP = /<\/?[a-z][^<>]*>|\{\\[^{}]*\}|&(?:nbsp|amp|lt|gt|quot|#\d+);/giu;
const PAIRS: Readonly<Record<string, string>> = { '(': ')', '[': ']', '{': '}', '“': '”', '«': '»', '"': '"' };
const ANY_PAIR = /[()[\]{}“”«»"]/;
/** What is opened must close within so many cues. */
const CLOSED_WITHIN = 4;

/** Letters that Windows-1252 has beside those of Latin-1. */
const WINDOWS_1252 = '€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ';
/** Beside ASCII, with its extensions for western Europe (ANSI/CTA-608-E, tables 50 and 5 to 10). */
const CEA_608 = 'áéíóúçÑñ÷█®°½¿™¢£♪àèâêîôûÁÉÓÚÜü‘¡’©℠·“”ÀÂÇÈÊËëÎÏïÔÙùÛ«»ÃãÍÌìÒòÕõÄäÖöß¥¤ÅåØø┌┐└┘—…';
/** What a target can show; 0 is all of Unicode. */
const CHARACTER_SETS: readonly ((text: string) => string)[] = [
  () => '',
  (text) => lackingIn(text, /[\u0020-\u007e\u00a0-\u00ff]/u, WINDOWS_1252),
  (text) => lackingIn(text, /[\u0020-\u005b\u005d\u0061-\u007a]/u, CEA_608)
];
const SET_NAMES = ['Unicode', 'Windows-1252', 'CEA-608'];

const lackingIn = (text: string, has: RegExp, more: string): string =>
  [...new Set(text)].filter((sign) => !has.test(sign) && !more.includes(sign)).join('');

const write = (word: Word, text: string): readonly ClientCommand[] =>
  text === word.text || text.trim() === '' ? [] : [{ type: 'setWordText', wordId: word.id, text }];

/** Looks at each word by itself, and writes it anew. */
function eachWord(
  about: Pick<Check, 'id' | 'title' | 'severity'>,
  tell: (word: Word, habits: Habits) => string | null,
  rewrite?: (text: string, habits: Habits) => string
): Check {
  return defineCheck({
    ...about,
    group: 'words',
    look: ({ words }, { habits }) =>
      words.flatMap((word) => {
        const message = tell(word, habits);
        return message === null ? [] : [{ word, message }];
      }),
    ...(rewrite !== undefined && { mend: (_, { habits }, { word }) => write(word!, rewrite(word!.text, habits)) })
  });
}

/** Quotation marks of one kind, by where they stand in the word. */
function quoteAs(text: string, kind: Habits['quotes']): string {
  if (kind === 'straight') return text.replace(/[“”]/g, '"').replace(/[‘’]/g, "'");
  return text
    .replace(/^([([]*)"/, '$1“')
    .replace(/^([([“]*)'(?=\p{L}+')/u, '$1‘')
    .replaceAll('"', '”')
    .replaceAll("'", '’');
}

/** Signs that open and never close, or close what nothing has opened. */
function unpaired(views: readonly CueView[], openings: readonly string[]): (Found & { readonly view: CueView })[] {
  const found: (Found & { readonly view: CueView })[] = [];
  const open = new Map<string, { readonly view: CueView; readonly word: Word; readonly at: number }[]>();
  const tell = (view: CueView, word: Word, sign: string): void => {
    found.push({ view, word, message: `${sign} in “${word.text}” has no other side.` });
  };
  const closings = new Map(openings.map((sign) => [PAIRS[sign]!, sign]));
  views.forEach((view, at) => {
    for (const [sign, opened] of open) {
      while (opened[0] !== undefined && at - opened[0].at > CLOSED_WITHIN) {
        const { view: where, word } = opened.shift()!;
        tell(where, word, sign);
      }
    }
    // Most cues hold no such sign.
    if (!ANY_PAIR.test(view.text)) return;
    for (const word of view.words) {
      for (const sign of word.text) {
        const opening = closings.get(sign);
        const opened = open.get(opening ?? sign);
        if (opening !== undefined && opened !== undefined && opened.length > 0) opened.pop();
        else if (openings.includes(sign)) open.set(sign, [...(opened ?? []), { view, word, at }]);
        else if (opening !== undefined && !isSmiley(word.text)) tell(view, word, sign);
      }
    }
  });
  for (const [sign, opened] of open) for (const { view, word } of opened) tell(view, word, sign);
  return found.sort((a, b) => a.view.cue.startMs - b.view.cue.startMs);
}

/** Numbered points and faces made of signs close brackets that nothing opened. */
const isSmiley = (text: string): boolean => /^(?:\(?[\da-z]{1,2}\)|[:;]-?\))[.,]?$/i.test(text);

export const signChecks: readonly Check[] = [
  defineTrackCheck({
    ...{ id: 'open_bracket', group: 'words', title: 'A bracket that does not close', severity: 'warning' },
    lookAtAll: (views) => unpaired(views, ['(', '[', '{'])
  }),
  defineTrackCheck({
    ...{ id: 'open_quote', group: 'words', title: 'A quotation that does not close', severity: 'warning' },
    // In German and its neighbours “ closes what „ has opened.
    lookAtAll: (views, { track }) =>
      unpaired(
        views,
        ['de', 'cs', 'sk', 'pl', 'bg', 'hu', 'ro', 'hr', 'sl'].includes(primarySubtag(track.language))
          ? ['"']
          : ['“', '«', '"']
      )
  }),
  eachWord(
    { id: 'markup_left', title: 'Markup that stands as text', severity: 'error' },
    ({ text }) => (text.search(MARKUP) < 0 ? null : `“${text}” is markup, and shown as it stands.`),
    (text) => text.replace(MARKUP, '')
  ),
  eachWord(
    { id: 'mixed_dashes', title: 'Dashes of two kinds', severity: 'hint' },
    ({ text }, { dash }) => {
      const own = DASH.exec(text)?.[0];
      return own === undefined || own === dash ? null : `“${text}”: most dashes of this track are ${dash}.`;
    },
    (text, { dash }) => text.replace(DASH, dash!)
  ),
  eachWord(
    { id: 'mixed_ellipses', title: 'Ellipses of two kinds', severity: 'hint' },
    ({ text }, { ellipsis }) => {
      const own = ELLIPSIS.exec(text)?.[0];
      return own === undefined || own === ellipsis ? null : `“${text}”: most ellipses of this track are ${ellipsis}.`;
    },
    (text, { ellipsis }) => text.replace(ELLIPSIS, ellipsis!)
  ),
  eachWord(
    { id: 'mixed_quotes', title: 'Straight and curly quotation marks', severity: 'hint' },
    ({ text }, { quotes }) => {
      const own = quotesOf(text);
      return own === null || own === quotes ? null : `“${text}”: most quotation marks of this track are ${quotes}.`;
    },
    (text, { quotes }) => quoteAs(text, quotes)
  ),
  eachWord(
    { id: 'unseen', title: 'Signs that cannot be seen', severity: 'warning' },
    ({ text }) => {
      const signs = text.match(UNSEEN);
      const names = new Set(
        signs?.map((sign) => `U+${sign.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`)
      );
      return signs === null ? null : `“${text.replace(UNSEEN, '')}” holds ${[...names].join(', ')}.`;
    },
    (text) => text.replace(UNSEEN, '')
  ),
  eachWord({ id: 'broken_sign', title: 'Letters read in the wrong encoding', severity: 'error' }, ({ text }) =>
    BROKEN.test(text) ? `“${text}” holds what is left of another encoding.` : null
  ),
  eachWord(
    { id: 'space_in_sound', title: 'Two spaces in a row', severity: 'hint' },
    ({ text }) => (/\s{2}/.test(text) ? `“${text}” holds two spaces in a row.` : null),
    (text) => text.replace(/\s{2,}/g, ' ')
  ),
  defineCheck({
    id: 'space_before_mark',
    group: 'words',
    title: 'A space before a mark',
    severity: 'warning',
    look: ({ words }, { track }) =>
      primarySubtag(track.language) === 'fr'
        ? []
        : words.flatMap((word, at) =>
            at > 0 && word.spaceBefore && /^[.,;:!?]+$/.test(word.text)
              ? [{ word, message: `A space stands before “${word.text}”.` }]
              : []
          ),
    mend({ words }, _, { word }) {
      const ahead = words[words.findIndex(({ id }) => id === word!.id) - 1]!;
      return [{ type: 'replaceWords', wordIds: [ahead.id, word!.id], text: ahead.text + word!.text }];
    }
  }),
  defineCheck({
    id: 'charset',
    group: 'file',
    title: 'Letters that the target does not have',
    severity: 'error',
    numbers: { set: { label: '0 Unicode, 1 Windows-1252, 2 CEA-608', unit: '', least: 0, most: 2, value: 0 } },
    look({ text }, { numbers: { set } }) {
      const lacking = CHARACTER_SETS[set]!(text);
      return lacking === '' ? null : { message: `${SET_NAMES[set]} does not have ${[...lacking].join(' ')}.` };
    }
  }),
  eachWord({ id: 'typed_dash', title: 'A dash of a voice that was typed', severity: 'hint' }, ({ text }) =>
    /^[-–—]\p{L}/u.test(text) ? `“${text}”: voices get their sign from the rules.` : null
  )
];
