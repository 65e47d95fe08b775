/** What every translator does, whatever it is: sentences of one language become sentences of another. */
import type { TranslatedSentence } from '$lib/core/translating';

/** How much of a draft its languages allow: close ones a real one, others often no more than a hint. */
export type DraftWorth = 'good' | 'rough';

export interface TranslatorPair {
  /** BCP 47. */
  readonly from: string;
  readonly to: string;
  readonly worth: DraftWorth;
  /** The language between the two, where it goes there first. */
  readonly via?: string;
}

/** What a service bills by. */
export interface TextPrice {
  /** For each 1,000 characters that were begun. */
  readonly centsPerThousand: number;
  readonly balanceCents: number;
  /** ISO 4217. */
  readonly currency: string;
}

export interface TranslatorFacts {
  readonly id: string;
  readonly name: string;
  /** Whether the text is sent to another machine. */
  readonly sendsText: boolean;
  readonly price?: TextPrice;
  readonly pairs: readonly TranslatorPair[];
  /** Pairs that it could have, and what has to be installed for each. */
  readonly missing: readonly (TranslatorPair & { readonly install: string })[];
  readonly available: boolean;
  readonly reason?: string;
}

export interface TranslateRequest {
  readonly sentences: readonly string[];
  readonly from: string;
  readonly to: string;
  /** The same for the same text: what is billed is so once a key. */
  readonly key: string;
  readonly signal: AbortSignal;
  /** Called with the share that is done, 0 to 1. */
  readonly onProgress: (share: number) => void;
}

export interface Translator {
  /** Whether names stay what they are in its hands; else they are kept from it. */
  readonly guardsNames: boolean;
  facts(): Promise<TranslatorFacts>;
  /**
   * One translation for each sentence, `null` where the engine failed on it twice. Rejects when aborted, or when it cannot
   * work at all.
   */
  translate(request: TranslateRequest): Promise<readonly (TranslatedSentence | null)[]>;
}
