/** Classes of English words that rarely change. */
const list = (words: string): ReadonlySet<string> => new Set(words.split(' '));

export const ENGLISH = {
  determiners: list(
    'a an the this that these those my your his her its our their some any no every each another both either neither whose'
  ),
  prepositions: list(
    'of in on at by for with from to into onto over under about after before between through during without within against among around behind beside beyond near off past since toward towards until upon up down out across along like as than'
  ),
  auxiliaries: list(
    "am is are was were be been being have has had do does did will would shall should can could may might must not isn't aren't wasn't weren't haven't hasn't hadn't don't doesn't didn't won't wouldn't shouldn't can't couldn't i'm you're we're they're he's she's it's i've you've we've they've i'll you'll he'll she'll we'll they'll"
  ),
  subjects: list('i you he she it we they who there'),
  openers: list('and but or nor so because although though while when where which who that if unless until since then'),
  tight: list('very too quite so more most less rather as'),
  /** Join what follows to what was said: a comma stands before them where a clause ends. */
  joiners: list('and but or nor so because although though which while unless'),
  /** Begin a clause that the main one follows. */
  introducers: list('if when while because although though after before until unless since once as'),
  /** Said alone before a sentence, and parted from it. */
  greetings: list('well yes no now oh please okay'),
  inverting: list(
    "am is are was were have has had do does did will would shall should can could may might must isn't aren't wasn't weren't haven't hasn't hadn't don't doesn't didn't won't wouldn't shouldn't can't couldn't"
  ),
  inverted: list(
    'i you he she it we they there this that these those the a an my your his her its our their anyone anybody someone'
  ),
  asking: list('what who whom whose which where when why how'),
  hesitations: list('um umm uh uhm er erm ah hm hmm mm mhm')
} as const;

/** A word without its punctuation, in small letters. */
export const bareWord = (text: string): string =>
  text
    .toLowerCase()
    .replaceAll('’', "'")
    .replace(/[^\p{L}\p{N}']/gu, '');

/** A sound made while thinking, kept in the words; by its letters, whoever wrote it. */
export const isHesitation = (text: string): boolean => ENGLISH.hesitations.has(bareWord(text));
