import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';

export const GET = () => answer(async () => json({ translators: await getApp().translating.translators() }));
