/** What a draft costs, before it is asked for; nothing is spent that was not agreed to. */
import { ApiProblem } from '../problem';
import type { TranslatorFacts } from './translator';

export interface TextQuote {
  readonly characters: number;
  readonly costCents: number;
  readonly balanceCents: number;
  readonly balanceAfterCents: number;
  /** ISO 4217. */
  readonly currency: string;
}

const PRICED_CHARACTERS = 1000;

/** Every thousand characters that were begun is paid. */
export const textCostCents = (characters: number, centsPerThousand: number): number =>
  Math.ceil(characters / PRICED_CHARACTERS) * centsPerThousand;

/** `null`: nothing is billed. */
export function textQuote({ price }: Pick<TranslatorFacts, 'price'>, characters: number): TextQuote | null {
  if (price === undefined) return null;
  const costCents = textCostCents(characters, price.centsPerThousand);
  const { balanceCents, currency } = price;
  return { characters, costCents, balanceCents, balanceAfterCents: balanceCents - costCents, currency };
}

/** Throws `balance_too_low`, `agree_to_price`. */
export function agreeOnText(quote: TextQuote | null, spendCents: number | undefined): void {
  if (quote === null) return;
  if (quote.balanceAfterCents < 0)
    throw new ApiProblem(
      402,
      'balance_too_low',
      'The balance at the service does not reach for this; pay in there, or have it drafted on this machine.',
      quote
    );
  if (spendCents !== quote.costCents)
    throw new ApiProblem(
      402,
      'agree_to_price',
      `This costs ${quote.costCents} cents for ${quote.characters} characters; send it again with "spendCents": ${quote.costCents}.`,
      quote
    );
}
