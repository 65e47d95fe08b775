/** The words of Translate. */
import { plural } from '$lib/core/plural';
import type { RowState } from '$lib/core/translating';
import type { RowFilter, Shown } from '$lib/client/translate/translating.svelte';

export const phrases = {
  states: { empty: 'empty', machine: 'machine’s', mine: 'mine', done: 'done' } satisfies Record<RowState, string>,
  filters: {
    label: 'Rows to show',
    all: 'every row',
    open: 'not done',
    machine: 'machine’s',
    changed: 'source has changed',
    terms: 'term not used'
  } satisfies Record<RowFilter | 'label', string>,
  shown: { target: 'translation', source: 'source', both: 'both' } satisfies Record<Shown, string>,
  head: {
    pair: (from: string, to: string) => `${from} to ${to}`,
    done: (done: number, rows: number) => `${done} of ${rows} done`,
    rest: (machine: number, mine: number, empty: number) =>
      [
        ...(mine > 0 ? [`${mine} mine`] : []),
        ...(machine > 0 ? [`${machine} machine’s`] : []),
        ...(empty > 0 ? [`${empty} empty`] : [])
      ].join(', '),
    changed: (count: number) => `${plural(count, 'row')} whose source has changed`,
    offTime: (count: number) => `${plural(count, 'row')} at other times than the source: take its times`,
    draft: 'Draft…',
    clipboard: 'Clipboard…',
    terms: 'Terms…',
    others: 'Other translations',
    shows: 'On the picture',
    drafting: (percent: number) => `Drafting, ${percent} %`,
    cancel: 'Cancel'
  },
  rows: {
    label: 'Rows of source and translation',
    loading: 'Opening the source…',
    none: 'The source has no cues yet.',
    noneListed: 'No row is like that.',
    noSource:
      'The source of this translation is not there: it can be read, timed and handed over, but not translated on.',
    text: (number: number) => `Translation of row ${number}`,
    part: (number: number, at: number) => `Translation of row ${number}, part ${at}`,
    begin: 'Write this row',
    speed: 'characters a second',
    perLine: 'Characters per line',
    limit: (most: number) => ` / ${most}`,
    speedLimit: (most: number) => ` / ${most} c/s`,
    was: 'The source said:',
    asItIs: 'It stands as it is',
    hint: 'Enter: done, and on to the next. Shift+Enter: a new line. Esc: out of the text.'
  },
  panel: {
    offers: 'Offered for this row',
    same: 'said before',
    likely: (percent: number) => `said before, ${percent} % the same`,
    term: 'term',
    used: 'used',
    missed: 'not used',
    none: 'Nothing was said before that is like it, and no term is in it.',
    choose: 'Choose a row.',
    words: (number: number, count: number) => `Row ${number} of ${count}`,
    time: 'Times as the source',
    done: 'Done',
    open: 'Open again',
    next: 'Next not done'
  },
  begin: {
    title: 'Translations of this track',
    about: 'Each has the times, speakers and places of this track, and stays beside it row by row.',
    none: 'There are none yet.',
    goOn: 'Go on',
    ofAll: (percent: number) => `${percent} % done`,
    heading: 'Begin a translation',
    language: 'Into',
    another: 'another…',
    tag: 'its tag',
    tagExample: 'es-419',
    from: 'From',
    ways: {
      empty: ['Nothing', 'rows with the times of the source, to be written'],
      source: ['The words of the source', 'to be written over'],
      engine: ['A machine’s draft', 'to be corrected'],
      text: ['A file or a text', 'captions in that language, or plain paragraphs, laid on the rows']
    },
    text: 'Captions or text in that language',
    file: 'Choose a file…',
    begin: 'Begin',
    beginFor: (cost: string) => `Begin, and spend ${cost}`,
    drafting: 'Being drafted…',
    working: 'Beginning…'
  },
  engine: {
    label: 'Drafted by',
    worth: {
      good: 'Close languages: a real first draft.',
      rough: 'From or into a distant language: rough, often slower to mend than to write.'
    },
    via: (language: string) => `It goes through ${language} first, so mistakes add up.`,
    here: 'The text stays on this machine.',
    sends: (name: string) => `The text is sent to ${name}.`,
    cost: (cost: string, characters: number, after: string) =>
      `${cost} for ${characters} characters; ${after} are left after that.`,
    missing: (name: string, install: string) =>
      `${name} does not have this pair here. Installing ${install} brings it.`,
    impossible: 'No translator here knows these two languages. Write it, or take it over the clipboard.',
    unavailable: (name: string, reason: string) => `${name} is not available: ${reason}`
  },
  draft: {
    title: 'Draft the rows that nobody has touched',
    about: (count: number) => `${plural(count, 'row')} will be written. What you wrote stays.`,
    nothing: 'Every row was written by hand: there is nothing to draft.',
    draft: 'Draft them',
    draftFor: (cost: string) => `Draft them, and spend ${cost}`,
    close: 'Not now'
  },
  clipboard: {
    title: 'Over the clipboard',
    about:
      'Copy a part, have it translated wherever you like, and paste what comes back. Numbers may be lost on the way, lines joined or parted.',
    back: 'Back to the rows',
    most: 'Characters a part, at most',
    part: (at: number, first: number, last: number) => `Part ${at}: rows ${first} to ${last}`,
    copy: 'Copy',
    copied: (at: number) => `Part ${at} is on the clipboard.`,
    noCopy: 'The browser gives no way to the clipboard here: the part is selected below, copy it with your keys.',
    paste: 'What came back for it',
    lay: 'Lay it on the rows',
    row: 'Row',
    source: 'Source',
    translation: 'Came back',
    trust: 'How far it can be trusted',
    sure: 'sure',
    look: 'have a look',
    nothing: 'nothing came',
    held: 'yours stays',
    left: 'Belongs to no row:',
    keepSource: 'Rows for which nothing came take the words of the source',
    overwrite: 'Write over rows that are mine or done, too',
    take: (count: number) => `Take ${plural(count, 'row')}`,
    taken: (count: number) => `${plural(count, 'row')} taken. Undo takes them back as one.`
  },
  terms: {
    title: 'Terms of the house',
    about: (from: string, to: string) => `From ${from} to ${to}, for every recording.`,
    source: 'In the source',
    target: 'In the translation',
    note: 'Note',
    add: 'Add a term',
    remove: (source: string) => `Remove “${source}”`,
    keep: 'Keep',
    close: 'Close',
    kept: 'The terms are kept.'
  }
};
