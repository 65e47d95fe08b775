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

export interface Corrected {
  /** Keys pressed, a chord as one. */
  readonly keys: number;
  /** Places where the draft was not as it was spoken, marks and capitals too. */
  readonly errors: number;
  /** Of these, those that were put right in the doubts queue. */
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
  const differences = (words: readonly SaidWord[]): { from: number; to: number; text: string[] }[] => {
    const found: { from: number; to: number; text: string[] }[] = [];
    let [at, wantedAt] = [0, 0];
    let open: (typeof found)[number] | null = null;
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
  for (let step = 0; step < doubts.length; step++) {
    if (step === 0) await press('n');
    const shown = page.locator('.sentence mark');
    if ((await shown.count()) === 0) break;
    const id = await chosenId();
    const from = words.findIndex((word) => word.id === id);
    const to = from + (await shown.textContent())!.split(' ').length;
    const candidates = await page.locator('ol[aria-label="What may be meant"] button span').allTextContents();
    const after = (candidate: string): number => {
      const text = candidate === 'Leave it out' ? [] : candidate.split(' ');
      const put = text.map((one) => ({ text: one }));
      return weightOf(differences([...words.slice(0, from), ...put, ...words.slice(to)]));
    };
    const now = weightOf(differences(words));
    const best = candidates.reduce(
      (least, candidate, at) =>
        from >= 0 && after(candidate) < least.weight ? { at, weight: after(candidate) } : least,
      { at: -1, weight: now }
    );
    const isRight = from >= 0 && !differences(words).some((one) => one.from < to && one.to > from);
    const before = await page.getByTestId('doubts-left').textContent();
    if (best.at >= 0) await press(String(best.at + 1));
    else if (isRight) await press('k');
    else await press('n');
    if (best.at >= 0 || isRight) {
      await page.waitForFunction(
        (old) => document.querySelector('[data-testid="doubts-left"]')?.textContent !== old,
        before
      );
      words = await wordsNow();
    }
  }
  const left = differences(words);
  const byDoubts = errors - left.length;

  // Then what is left, from the front: one key for marks and capitals, else typed over.
  await page.keyboard.press('Escape');
  for (let guard = 0; guard < 3 * errors + 20; guard++) {
    words = await wordsNow();
    const next = differences(words).find((one) => one.from >= 0);
    if (next === undefined) break;
    const at = Math.min(next.from, words.length - 1);
    await goTo(words[at]!.id);
    const single = next.to - next.from === 1 && next.text.length === 1 ? next.text[0]! : null;
    const repair = single === null ? null : repairFor(words[next.from]!.text, single);
    if (repair !== null) {
      await press(repair);
      continue;
    }
    await press('Enter');
    const old = words.slice(next.from, next.to).map((word) => word.text);
    const length = old.join(' ').length;
    while (length > 0 && (await selectedLength(page)) < length) await press('Shift+Control+ArrowRight');
    while ((await selectedLength(page)) > length) await press('Shift+ArrowLeft');
    if (next.text.length === 0) {
      await press('Delete');
      await press('Delete');
    } else {
      const text = next.text.join(' ') + (length === 0 ? ' ' : '');
      keys += text.length;
      await page.keyboard.insertText(text);
    }
    await press('Escape');
  }
  words = await wordsNow();
  if (differences(words).length > 0)
    throw new Error(`not put right: ${JSON.stringify(differences(words).slice(0, 3))}`);
  return { keys, errors, byDoubts };
}

/** How much is still wrong: fewer words in fewer places. */
const weightOf = (found: readonly { from: number; to: number; text: string[] }[]): number =>
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
