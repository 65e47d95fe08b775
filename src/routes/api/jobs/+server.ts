import { json } from '@sveltejs/kit';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';

/** Jobs that wait or run, the oldest first. */
export const GET = () =>
  answer(() => {
    const { jobs, jobStore } = getApp();
    return json({ jobs: jobStore.unfinished().map((job) => jobs.answerOf(job)) });
  });
