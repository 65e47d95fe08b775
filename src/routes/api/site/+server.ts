import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

/** The video site, what it takes, and its videos. */
export const GET = ({ request }: RequestEvent) =>
  answer(async () => {
    const { site } = getApp().publishing;
    const [channel, videos] = await Promise.all([site.channel(request.signal), site.videos(request.signal)]);
    return json({ channel, videos: videos.map(({ id, title, durationMs }) => ({ id, title, durationMs })) });
  });
