import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

export const POST = ({ params }: RequestEvent) =>
  answer(() => {
    const { faces } = getApp();
    faces.setRemoved(params.id, false);
    return json({ faces: faces.list() });
  });
