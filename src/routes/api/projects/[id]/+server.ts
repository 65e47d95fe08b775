import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { notFound } from '$lib/server/problem';
import { projectNameSchema } from '$lib/server/store/projects';
import type { RequestEvent } from './$types';

export const PATCH = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const { name } = await readJson(request, projectNameSchema);
    const { projects } = getApp();
    if (projects.find(params.id) === null) throw notFound('project', params.id);
    projects.rename(params.id, name);
    return json({ project: projects.find(params.id) });
  });

/** Its recordings stay, in no project. */
export const DELETE = ({ params }: RequestEvent) =>
  answer(() => {
    const { projects } = getApp();
    if (projects.find(params.id) === null) throw notFound('project', params.id);
    projects.remove(params.id);
    return new Response(null, { status: 204 });
  });
