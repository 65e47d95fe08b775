import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ruleSetSchema } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

const setsRequest = z.object({ sets: z.array(ruleSetSchema).max(200) });

export const GET = () => answer(() => json({ sets: getApp().ruleSets.list() }));

/** The whole list anew. */
export const PUT = ({ request }: RequestEvent) =>
  answer(async () => {
    const { sets } = await readJson(request, setsRequest);
    const names = new Set(sets.map(({ name }) => name));
    if (names.size < sets.length)
      throw new ApiProblem(422, 'name_taken', 'Two sets of rules have the same name: give one another.');
    const { ruleSets } = getApp();
    ruleSets.replace(sets);
    return json({ sets: ruleSets.list() });
  });
