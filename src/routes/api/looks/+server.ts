import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ownLookSchema, SHIPPED_LOOKS } from '$lib/core/looks';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { refuseTakenNames } from '$lib/server/http/kept-names';
import type { RequestEvent } from './$types';

const MOST_LOOKS = 200;
const looksRequest = z.object({ looks: z.array(ownLookSchema).max(MOST_LOOKS) });

const list = () => ({
  looks: [
    ...SHIPPED_LOOKS,
    ...getApp()
      .ownLooks.list()
      .map(({ content, ...kept }) => ({ ...kept, look: content, shipped: false }))
  ]
});

export const GET = () => answer(() => json(list()));

/** The house's own looks, the whole list anew. */
export const PUT = ({ request }: RequestEvent) =>
  answer(async () => {
    const { looks } = await readJson(request, looksRequest);
    refuseTakenNames(looks, SHIPPED_LOOKS);
    getApp().ownLooks.replace(looks.map(({ name, look }) => ({ name, content: look })));
    return json(list());
  });
