/** A captioner's hands: a draft is brought to what was spoken through the interface alone, by keys, and the keys are counted. */
import { diffArrays } from 'diff';
import type { Page } from '@playwright/test';
import { ask, saved, type Server } from './support';

interface PageWord {
  readonly id: string;
  readonly text: string;
  readonly shown: boolean;
  readonly kind: string;
}
type SaidWord = Pick<PageWord, 'text'>;
/** A run of words, and what was said there. */
interface Difference {
  readonly from: number;
  to: number;
  readonly text: string[];
}

export interface Corrected {
  /** Keys pressed, a chord as one. */
  readonly keys: number;
  /** Places where the draft was not as it was spoken, marks and capitals too. */
  readonly errors: number;
  /** Of these, those that a doubt led to. */
  readonly byDoubts: number;
}

const REPAIR_BY_MARK: Readonly<Record<string, string>> = { '.': '.', ',': ',', '?': 'a' };

export async function correctByKeys(
  page: Page,
  server: Server,
  { trackId, reference }: { readonly trackId: string; readonly reference: string }
): Promise<Corrected> {
  const wanted = reference.split(/\s+/);
  let keys = 0;
  const press = async (key: string): Promise<void> => {
    keys++;
    await page.keyboard.press(key);
  };
  /** Every word on the page, and those that are shown. */
  let all: PageWord[] = [];
  const wordsNow = async (): Promise<PageWord[]> => {
    await saved(page);
    all = (await ask(server, `/api/tracks/${trackId}/document`)).body.track.words;
    return all.filter((word) => word.shown && word.kind === 'speech');
  };
  const chosenId = async (): Promise<string | null> => {
    let signs = await signsBeforeChosen(page);
    if (signs < 0) return null;
    return all.find((word) => (signs -= word.text.replace(/\s/g, '').length) < 0)?.id ?? null;
  };
  /** Word by word, as it is done by hand: the steps are counted. */
  const goTo = async (wordId: string): Promise<void> => {
    const order = all.map((word) => word.id);
    for (let step = 0; step <= order.length; step++) {
      const here = await chosenId();
      if (here === wordId) return;
      const isAhead = here === null || order.indexOf(here) < order.indexOf(wordId);
      await press(isAhead ? 'f' : 'd');
    }
    throw new Error('the page does not come to the word');
  };
  /** Runs of words that are not as they were spoken: from, to, and what belongs there. */
  const differences = (words: readonly SaidWord[]): Difference[] => {
    const found: Difference[] = [];
    let [at, wantedAt] = [0, 0];
    let open: Difference | null = null;
    for (const part of diffArrays(
      words.map((word) => word.text),
      wanted
    )) {
      if (!part.added && !part.removed) {
        open = null;
        at += part.count;
        wantedAt += part.count;
        continue;
      }
      if (open === null) found.push((open = { from: at, to: at, text: [] }));
      if (part.removed) open.to = at += part.count;
      else open.text.push(...wanted.slice(wantedAt, (wantedAt += part.count)));
    }
    return found;
  };

  const errors = differences(await wordsNow()).length;

  // First the doubts: a candidate that makes it right is taken, what is right is kept, the rest is typed later.
  await page.getByTestId('doubts-left').filter({ hasText: /left/ }).waitFor();
  const { doubts } = (await ask(server, `/api/tracks/${trackId}/doubts`)).body;
  let words = await wordsNow();
  /** One key for a mark or a capital, else typed over. */
  const putRight = async (wrong: Difference): Promise<void> => {
    await goTo(words[Math.min(wrong.from, words.length - 1)]!.id);
    const single = wrong.to - wrong.from === 1 && wrong.text.length === 1 ? wrong.text[0]! : null;
    const repair = single === null ? null : repairFor(words[wrong.from]!.text, single);
    if (repair !== null) return press(repair);
    await press('Enter');
    const old = words.slice(wrong.from, wrong.to).map((word) => word.text);
    const { length } = old.join(' ');
    while (length > 0 && (await selectedLength(page)) < length) await press('Shift+Control+ArrowRight');
    while ((await selectedLength(page)) > length) await press('Shift+ArrowLeft');
    if (wrong.text.length === 0) {
      await press('Delete');
      await press('Delete');
    } else {
      const text = wrong.text.join(' ') + (length === 0 ? ' ' : '');
      keys += text.length;
      await page.keyboard.insertText(text);
    }
    await press('Escape');
  };

  const looked = new Set<string>();
  // A decision goes on to the next doubt by itself.
  let isNextShown = false;
  for (let step = 0; step < doubts.length; step++) {
    if (!isNextShown) await press('n');
    isNextShown = false;
    const shown = page.locator('.sentence mark');
    const id = await chosenId();
    if (id === null || looked.has(id) || (await shown.count()) === 0) break;
    looked.add(id);
    const from = words.findIndex((word) => word.id === id);
    if (from < 0) continue;
    const to = from + (await shown.textContent())!.split(' ').length;
    const candidates = await page.locator('ol[aria-label="What may be meant"] button span').allTextContents();
    const weights = candidates.map((candidate) => {
      const text = candidate === 'Leave it out' ? [] : candidate.split(' ');
      const put = text.map((one) => ({ text: one }));
      return weightOf(differences([...words.slice(0, from), ...put, ...words.slice(to)]));
    });
    const least = Math.min(weightOf(differences(words)), ...weights);
    const best = weightOf(differences(words)) === least ? -1 : weights.indexOf(least);
    const wrong = differences(words).find((one) => one.from < to && one.to > from);
    const before = await page.getByTestId('doubts-left').textContent();
    if (best >= 0) await press(String(best + 1));
    else if (wrong === undefined) await press('0');
    else await putRight(wrong);
    isNextShown = best >= 0 || wrong === undefined;
    if (isNextShown)
      await page.waitForFunction(
        (old) => document.querySelector('[data-testid="doubts-left"]')?.textContent !== old,
        before
      );
    words = await wordsNow();
  }
  const byDoubts = errors - differences(words).length;

  // Then what no doubt led to, from the front.
  await page.keyboard.press('Escape');
  for (let guard = 0; guard < 3 * errors + 20; guard++) {
    words = await wordsNow();
    const [next] = differences(words);
    if (next === undefined) return { keys, errors, byDoubts };
    await putRight(next);
  }
  throw new Error(`not put right: ${JSON.stringify(differences(words).slice(0, 3))}`);
}

/** How much is still wrong: fewer words in fewer places. */
const weightOf = (found: readonly Difference[]): number =>
  found.reduce((sum, one) => sum + Math.max(one.to - one.from, one.text.length), 0);

function repairFor(now: string, wanted: string): string | null {
  if (now !== wanted && now.toLowerCase() === wanted.toLowerCase()) return 'c';
  for (const [mark, key] of Object.entries(REPAIR_BY_MARK)) {
    if (now.replace(/[.,?]$/, '') + mark === wanted) return key;
    if (wanted + mark === now) return key;
  }
  return null;
}

const selectedLength = (page: Page): Promise<number> => page.evaluate(() => getSelection()?.toString().length ?? 0);

/**
 * How many letters and signs stand on the page before what is chosen, spaces not counted; -1 where nothing is chosen.
 * Words are told by it: the page shows all of them, in order.
 */
const signsBeforeChosen = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const [chosen] = [...(CSS.highlights.get('page-chosen') ?? [])] as Range[];
    const paper = document.querySelector('[data-testid="page"]');
    if (chosen === undefined || paper === null) return -1;
    const before = document.createRange();
    before.setStart(paper, 0);
    before.setEnd(chosen.startContainer, chosen.startOffset);
    return before.toString().replace(/\s/g, '').length;
  });
