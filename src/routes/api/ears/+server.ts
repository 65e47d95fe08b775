import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { earAnswer } from '$lib/server/recognisers/models/answer';

/** The speech models of the user's own folder. */
export const GET = () =>
  answer(async () => {
    const { ears } = getApp();
    return json({ folder: ears.folder, ears: (await ears.list()).map(earAnswer) });
  });
