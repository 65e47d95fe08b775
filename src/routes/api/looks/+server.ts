import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ownLookSchema, SHIPPED_LOOKS } from '$lib/core/looks';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

const MOST_LOOKS = 200;
const looksRequest = z.object({ looks: z.array(ownLookSchema).max(MOST_LOOKS) });

const list = () => ({ looks: [...SHIPPED_LOOKS, ...getApp().ownLooks.list()] });

export const GET = () => answer(() => json(list()));

/** The house's own looks, the whole list anew. */
export const PUT = ({ request }: RequestEvent) =>
  answer(async () => {
    const { looks } = await readJson(request, looksRequest);
    const names = new Set(looks.map(({ name }) => name));
    const shipped = SHIPPED_LOOKS.find(({ name }) => names.has(name));
    if (names.size < looks.length)
      throw new ApiProblem(422, 'name_taken', 'Two looks have the same name: give one another.');
    if (shipped !== undefined)
      throw new ApiProblem(422, 'name_taken', `“${shipped.name}” comes with Vine Tap: give yours another name.`);
    getApp().ownLooks.replace(looks);
    return json(list());
  });
