import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { eventStream } from '$lib/server/http/event-stream';
import type { NumberedEvent } from '$lib/server/events';
import type { RequestEvent } from './$types';

/** All jobs, tracks and recordings. A caller that comes back too late is told `reset`: what it knows may be old. */
export const GET = ({ request }: RequestEvent) =>
  answer(() => {
    const { events } = getApp();
    const last = request.headers.get('last-event-id');
    return eventStream((sink) => {
      const send = ({ id, event }: NumberedEvent): void => sink.send({ id, name: event.name, data: event.data });
      const missed = last === null ? [] : events.since(last);
      if (missed === null) sink.send({ name: 'reset', data: {} });
      else missed.forEach(send);
      return events.listen(send);
    });
  });
