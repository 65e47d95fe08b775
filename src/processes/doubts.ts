/** A process that looks for what deserves a look in a track: its libraries' faults stay in it. */
import { findDoubts } from '$lib/core/doubts';
import { spokenForms } from '$lib/core/expecting';
import { messageOf } from '$lib/core/message-of';
import { toFinder, type FromFinder, type ToFinder } from '$lib/server/doubts/messages';
import { openSpeller, type Speller } from '$lib/server/doubts/hunspell';
import { Pronouncer } from '$lib/server/pronounce';

const say = (message: FromFinder): void => void process.send?.(message);

/** What is kept of a language. */
interface Known {
  readonly pronouncer: Pronouncer;
  readonly speller: Speller | null;
  readonly spelled: Map<string, boolean>;
  readonly suggested: Map<string, readonly string[]>;
}
const known = new Map<string, Known>();

function knownOf(language: string): Known {
  let one = known.get(language);
  if (one === undefined) {
    one = {
      pronouncer: new Pronouncer(language),
      speller: openSpeller(language),
      spelled: new Map(),
      suggested: new Map()
    };
    known.set(language, one);
  }
  return one;
}

const remembered =
  <V>(made: Map<string, V>, make: (word: string) => V) =>
  (word: string): V => {
    let value = made.get(word);
    if (value === undefined) {
      value = make(word);
      made.set(word, value);
    }
    return value;
  };

/** A suggestion takes the library up to a tenth of a second: the rest come when it is asked the next time. */
const SUGGESTING_MS = 300;

/** What reading a dictionary, saying the words and looking them up take of the whole, about. */
const SHARES = { read: 0.35, said: 0.6 };
/** How far it is, is said after so many words. */
const SAID_EVERY = 500;

async function find({ id, track, terms }: ToFinder): Promise<void> {
  const far = (share: number): void => say({ type: 'far', id, share });
  const { pronouncer, speller, spelled, suggested } = knownOf(track.language);
  far(SHARES.read);
  const texts = [
    ...terms.flatMap((term) => [term.text, term.soundsLike ?? '']),
    ...track.words.flatMap((word) => [word.text, ...word.alternatives])
  ];
  // Nothing has to be said where nothing is expected.
  const pronounce = await pronouncer.of(terms.length === 0 ? new Set() : new Set(texts.flatMap(spokenForms)));
  far(SHARES.said);
  const untilMs = Date.now() + SUGGESTING_MS;
  const suggest = remembered(suggested, (word) => speller?.suggest(word) ?? []);
  let looked = 0;
  const lookUp = speller && remembered(spelled, speller.isSpelled);
  const isSpelled =
    lookUp &&
    ((word: string): boolean => {
      if (++looked % SAID_EVERY === 0) far(SHARES.said + (1 - SHARES.said) * Math.min(1, looked / track.words.length));
      return lookUp(word);
    });
  const doubts = findDoubts(track, {
    terms,
    pronounce,
    isSpelled,
    suggest: (word) => (suggested.has(word) || Date.now() < untilMs ? suggest(word) : [])
  });
  say({ type: 'found', id, doubts });
}

process.on('message', (raw) => {
  const asked = toFinder.parse(raw);
  find(asked).catch((error: unknown) => say({ type: 'failed', id: asked.id, reason: messageOf(error) }));
});

// The server is gone: nobody is left to look for.
process.on('disconnect', () => process.exit(0));
