/** What a hearing costs, before it is asked for. */
import { startedMinutes } from './metered/protocol';
import type { EngineFacts } from './recognisers/recogniser';

export interface Quote {
  readonly minutes: number;
  readonly costCents: number;
  readonly balanceCents: number;
  readonly balanceAfterCents: number;
  /** ISO 4217. */
  readonly currency: string;
}

/** `null`: nothing is billed. */
export function quoteFor({ price }: EngineFacts, durationMs: number): Quote | null {
  if (price === undefined) return null;
  const minutes = startedMinutes(durationMs);
  const costCents = minutes * price.centsPerMinute;
  const { balanceCents, currency } = price;
  return { minutes, costCents, balanceCents, balanceAfterCents: balanceCents - costCents, currency };
}
