import { building } from '$app/environment';
import { openApp } from '$lib/server/app';
import type { Handle, ServerInit } from '@sveltejs/kit';

export const init: ServerInit = async () => {
  if (building) return;
  const app = await openApp();
  process.once('vinetap:end' as 'beforeExit', () => app.close());
};

export const handle: Handle = async ({ event, resolve }) => {
  const response = await resolve(event);
  response.headers.set('x-content-type-options', 'nosniff');
  return response;
};
