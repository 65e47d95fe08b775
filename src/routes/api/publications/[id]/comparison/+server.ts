import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** Cue by cue, whether viewers of the site get what was handed over. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => json(await getApp().publishing.compare(params.id, request.signal)));
