import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** Takes one of the house's own faces from the list. */
export const DELETE = ({ params }: RequestEvent) =>
  answer(() => {
    getApp().faces.setRemoved(params.id, true);
    return new Response(null, { status: 204 });
  });
