import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { renderAnswer } from '$lib/server/rendering/answer';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => json({ render: renderAnswer(getApp().rendering.get(params.id)) }));

export const DELETE = ({ params }: RequestEvent) =>
  answer(async () => {
    await getApp().rendering.remove(params.id);
    return new Response(null, { status: 204 });
  });
