import { building } from '$app/environment';
import { getApp, openApp } from '$lib/server/app';
import { siteAccount } from '$lib/server/config';
import type { Handle, ServerInit } from '@sveltejs/kit';

export const init: ServerInit = () => {
  if (building) return;
  const app = openApp();
  process.once('vinetap:end' as 'beforeExit', () => app.close());
};

const UUID = /^[\da-f-]{36}$/;

export const handle: Handle = async ({ event, resolve }) => {
  const response = await resolve(event);
  letGoBy(event.request);
  response.headers.set('x-content-type-options', 'nosniff');
  allowSite(response.headers);
  const { trackId } = event.params;
  if (trackId !== undefined && UUID.test(trackId)) {
    // Tracks are on their way while the browser still reads the scripts that will ask for them.
    const isBesideSource = event.route.id?.endsWith('/translate') === true;
    const sourceId = isBesideSource ? (getApp().trackStore.findSummary(trackId)?.sourceTrackId ?? null) : null;
    for (const id of [trackId, ...(sourceId === null ? [] : [sourceId])])
      response.headers.append('link', `</api/tracks/${id}/document?packed=1>; rel=preload; as=fetch; crossorigin`);
  }
  return response;
};

/** The page that viewers have on the video site may stand in ours. */
function allowSite(headers: Headers): void {
  const account = siteAccount();
  const policy = headers.get('content-security-policy');
  if (account === null || policy === null) return;
  headers.set('content-security-policy', `${policy}; frame-src ${new URL(account.url).origin}`);
}

/** What nobody read of a request is read to its end: until then the next one on its connection would wait. */
function letGoBy({ body }: Request): void {
  if (body === null || body.locked) return;
  // It fails where the connection is broken, and nobody is left who could be told.
  body.pipeTo(new WritableStream()).catch(() => undefined);
}
