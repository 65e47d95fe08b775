import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() =>
    json({
      rows: getApp()
        .translating.rows(params.id)
        .map(({ sourceCues, cues, source, target, state, changedFrom }) => ({
          sourceCueIds: sourceCues.map(({ id }) => id),
          cueIds: cues.map(({ id }) => id),
          ...{ source, target, state },
          sourceChanged: changedFrom !== null,
          ...(changedFrom !== null && { changedFrom })
        }))
    })
  );
