import { randomUUID } from 'node:crypto';
import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { projectNameSchema } from '$lib/server/store/projects';
import type { RequestEvent } from './$types';

export const GET = () => answer(() => json({ projects: getApp().projects.list() }));

export const POST = ({ request }: RequestEvent) =>
  answer(async () => {
    const { name } = await readJson(request, projectNameSchema);
    const { projects } = getApp();
    const id = randomUUID();
    projects.insert(id, name, Date.now());
    return json({ project: projects.find(id) }, { status: 201 });
  });
