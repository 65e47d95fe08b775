/** The vocabulary as the API takes and tells it. */
import { z } from 'zod';
import { MOST_TERMS, readTerms, type Term } from '$lib/core/expecting';

export const termsRequest = z.object({
  terms: z.array(z.object({ text: z.string().max(1000), soundsLike: z.string().max(1000).optional() })).max(MOST_TERMS)
});

/** What can be spoken of the terms asked for, doubles left out. */
export const termsFromRequest = ({ terms }: z.output<typeof termsRequest>): readonly Term[] =>
  readTerms(
    terms.map(({ text, soundsLike }) => (soundsLike === undefined ? text : `${text} = ${soundsLike}`)).join('\n')
  ).terms;

export const termsAnswer = (terms: readonly Term[]) => ({
  terms: terms.map(({ text, soundsLike }) => ({ text, ...(soundsLike !== null && { soundsLike }) }))
});
