import { json } from '@sveltejs/kit';
import { stepRequest } from '$lib/server/documents/step';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { savedTrimAnswer } from '$lib/server/trims/answer';
import type { RequestEvent } from './$types';

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () =>
    json(savedTrimAnswer(getApp().trims.step(params.id, 'undo', await readJson(request, stepRequest))))
  );
