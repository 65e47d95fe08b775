import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { checksAnswer } from '$lib/server/tracks/checking';
import type { RequestEvent } from './$types';

/** What is not as it should be, by the track's own sheet or by the one of a name. */
export const GET = ({ params, url, request }: RequestEvent) =>
  answer(async () =>
    json(
      await checksAnswer(
        getApp(),
        params.id,
        { sheetName: url.searchParams.get('sheet'), trimId: url.searchParams.get('trimId') },
        request.signal
      )
    )
  );
