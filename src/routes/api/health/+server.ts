import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { version } from '$lib/server/config';
import { answer } from '$lib/server/http/answers';
import { ffmpegVersion } from '$lib/server/media/ffmpeg';

export const GET = () =>
  answer(async () => {
    const engines = await Promise.all([...getApp().recognisers.values()].map((recogniser) => recogniser.facts()));
    return json({ ok: true, version, engines, tools: { ffmpeg: await ffmpegVersion() } });
  });
