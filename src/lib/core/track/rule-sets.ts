/** Named sets of a house's numbers. Those here ship; houses add their own. */
import { z } from 'zod';
import { HOUSE_RULES, rulesSchema, type Rules } from './track';

export const ruleSetSchema = z.object({ name: z.string().trim().min(1).max(80), rules: rulesSchema }).readonly();
export type RuleSet = z.infer<typeof ruleSetSchema>;

export const SHIPPED_RULE_SETS: readonly RuleSet[] = [
  { name: 'Web video', rules: HOUSE_RULES },
  {
    name: 'Broadcast',
    rules: { ...HOUSE_RULES, maxCharsPerLine: 37, maxCharsPerSecond: 17, minGapMs: 120, lingerMs: 300 }
  },
  {
    name: 'Children',
    rules: { ...HOUSE_RULES, maxCharsPerLine: 32, maxCharsPerSecond: 12, minDurationMs: 1500, lingerMs: 800 }
  },
  {
    name: 'Single words',
    rules: {
      ...HOUSE_RULES,
      ...{ maxLines: 1, maxCharsPerLine: 24, maxCharsPerSecond: 40, minDurationMs: 100 },
      ...{ minGapMs: 0, lingerMs: 0, oneWordPerCue: true }
    }
  }
];

/** Characters of an English word with its space, as reading speeds are reckoned. */
const CHARACTERS_A_WORD = 6;

/** Characters a second at so many words a minute. */
export const charsPerSecond = (wordsAMinute: number): number =>
  Number(((wordsAMinute * CHARACTERS_A_WORD) / 60).toFixed(2));

/** Words a minute at so many characters a second. */
export const wordsPerMinute = (charactersASecond: number): number =>
  Math.round((charactersASecond * 60) / CHARACTERS_A_WORD);

/** What scripts whose signs say more, or are wider, have room for; in signs of full width where lines count those. */
const BY_SCRIPT: Readonly<Record<string, Pick<Rules, 'maxCharsPerLine' | 'maxCharsPerSecond'>>> = {
  Jpan: { maxCharsPerLine: 16, maxCharsPerSecond: 7 },
  Hans: { maxCharsPerLine: 16, maxCharsPerSecond: 9 },
  Hant: { maxCharsPerLine: 16, maxCharsPerSecond: 9 },
  Kore: { maxCharsPerLine: 16, maxCharsPerSecond: 12 },
  Thai: { maxCharsPerLine: 35, maxCharsPerSecond: 17 }
};

const ofScript = (language: string) => BY_SCRIPT[scriptOf(language) ?? ''] ?? null;

function scriptOf(language: string): string | undefined {
  try {
    return new Intl.Locale(language).maximize().script;
  } catch {
    // Tags that are none are kept as they were once taken.
    return undefined;
  }
}

/** Rules for captions in one language, made of those for another: lengths and speeds follow the script. */
export function rulesOfScript(rules: Rules, from: string, to: string): Rules {
  const [old, own] = [ofScript(from), ofScript(to)];
  if (old === own) return rules;
  const { maxCharsPerLine, maxCharsPerSecond } = own ?? HOUSE_RULES;
  return { ...rules, maxCharsPerLine, maxCharsPerSecond };
}
