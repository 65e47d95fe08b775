import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { savedAnswer } from '$lib/server/tracks/answer';
import { stepRequest } from '$lib/server/documents/step';
import type { RequestEvent } from './$types';

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => json(savedAnswer(getApp().tracks.undo(params.id, await readJson(request, stepRequest)))));
