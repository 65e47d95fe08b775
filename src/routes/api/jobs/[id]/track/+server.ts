import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** Begins the track of a hearing in work: it holds what is heard by now and grows while it is worked on. */
export const POST = ({ params }: RequestEvent) =>
  answer(() => json(getApp().hearing.growing.begin(getApp().jobs.get(params.id)), { status: 201 }));
