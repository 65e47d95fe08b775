import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { getApp } from '$lib/server/app';
import { answer, check, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** What tools outside take in one go, as they mostly do. */
const USUAL_CHARACTERS = 5000;

const partsRequest = z.object({
  mostCharacters: z.coerce.number().int().min(100).max(10_000_000).default(USUAL_CHARACTERS)
});
const pasteRequest = z.object({
  text: z.string(),
  firstRow: z.int().min(0).default(0),
  rows: z.int().min(1).optional(),
  /** Rows for which nothing came take the text of the source; left out, they stay as they are. */
  keepSource: z.boolean().default(false),
  /** Rows that were written by hand are written over, too. */
  overwrite: z.boolean().default(false),
  /** Only these of the rows are taken. */
  only: z.array(z.int().min(0)).optional(),
  revision: z.int().min(0).optional(),
  dryRun: z.boolean().default(false)
});

export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const { mostCharacters } = check(partsRequest, Object.fromEntries(url.searchParams), 'The query');
    return json({ parts: getApp().translating.clipboard(params.id, mostCharacters) });
  });

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const asked = await readJson(request, pasteRequest);
    const { rows, only, revision, ...rest } = asked;
    const { pasted, taken } = getApp().translating.paste(params.id, { ...rest, rows, only, revision });
    return json({ ...pasted, ...(taken !== null && { revision: taken.revision }) });
  });
