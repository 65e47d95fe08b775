import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

export const GET = () => answer(() => json({ faces: getApp().faces.list() }));

/** A font file of the house's own: its raw bytes. */
export const POST = ({ request }: RequestEvent) =>
  answer(async () => json(await getApp().faces.bringIn(request.body), { status: 201 }));
