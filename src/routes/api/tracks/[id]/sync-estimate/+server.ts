import { asTrackId } from '$lib/core/id';
import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { estimateTrackSync } from '$lib/server/tracks/sync';
import type { RequestEvent } from './$types';

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => json(await estimateTrackSync(getApp(), asTrackId(params.id), request.signal)));
