import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { spokenForms, termsInNotes } from '$lib/core/expecting';
import { answer, readJson } from '$lib/server/http/answers';
import { englishWords } from '$lib/server/spelling';
import type { RequestEvent } from './$types';

const MOST_SUGGESTIONS = 300;
const suggestionsRequest = z.object({ notes: z.string().max(2_000_000) });

/** Names and terms that stand in notes, to be ticked. */
export const POST = ({ request }: RequestEvent) =>
  answer(async () => {
    const { notes } = await readJson(request, suggestionsRequest);
    const { isKnown } = await englishWords();
    const found = termsInNotes(notes, isKnown).filter(({ text }) => spokenForms(text).length > 0);
    return json({ terms: found.slice(0, MOST_SUGGESTIONS) });
  });
