import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ownSheetSchema, SHIPPED_SHEETS } from '$lib/core/checks';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { refuseTakenNames } from '$lib/server/http/kept-names';
import { keptSheets } from '$lib/server/tracks/checking';
import type { RequestEvent } from './$types';

const MOST_SHEETS = 200;
const sheetsRequest = z.object({ sheets: z.array(ownSheetSchema).max(MOST_SHEETS) });

export const GET = () => answer(() => json({ sheets: keptSheets(getApp()) }));

/** The house's own sheets, the whole list anew. */
export const PUT = ({ request }: RequestEvent) =>
  answer(async () => {
    const { sheets } = await readJson(request, sheetsRequest);
    refuseTakenNames(sheets, SHIPPED_SHEETS);
    getApp().ownSheets.replace(sheets.map(({ name, sheet }) => ({ name, content: sheet })));
    return json({ sheets: keptSheets(getApp()) });
  });
