import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { version } from '$lib/server/config';
import { answer } from '$lib/server/http/answers';
import { ffmpegFacts } from '$lib/server/media/ffmpeg';

export const GET = () =>
  answer(async () => {
    return json({ ok: true, version, engines: await getApp().engines(), tools: { ffmpeg: await ffmpegFacts() } });
  });
