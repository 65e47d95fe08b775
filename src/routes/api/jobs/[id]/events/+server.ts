import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { eventStream } from '$lib/server/http/event-stream';
import type { RequestEvent } from './$types';

export const GET = ({ params }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    app.jobs.get(params.id);
    return eventStream((sink) => {
      const tell = (): void => {
        const job = app.jobs.get(params.id);
        sink.send({ data: { job: getApp().jobs.answerOf(job) } });
        if (job.state !== 'queued' && job.state !== 'running') sink.end();
      };
      const stop = app.events.listen(({ event }) => {
        if (event.name === 'job' && event.jobId === params.id) tell();
      });
      tell();
      return stop;
    });
  });
