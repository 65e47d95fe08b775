import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ownDestinationSchema, SHIPPED_DESTINATIONS } from '$lib/core/destinations';
import { getApp, type App } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { refuseTakenNames } from '$lib/server/http/kept-names';
import type { RequestEvent } from './$types';

const MOST_DESTINATIONS = 200;
const destinationsRequest = z.object({ destinations: z.array(ownDestinationSchema).max(MOST_DESTINATIONS) });

const listOf = ({ ownDestinations, lastDestination }: App) => ({
  last: lastDestination.get(),
  destinations: [
    ...SHIPPED_DESTINATIONS,
    ...ownDestinations.list().map(({ content, ...kept }) => ({ ...kept, destination: content, shipped: false }))
  ]
});

export const GET = () => answer(() => json(listOf(getApp())));

/** The house's own destinations, the whole list anew. */
export const PUT = ({ request }: RequestEvent) =>
  answer(async () => {
    const { destinations } = await readJson(request, destinationsRequest);
    refuseTakenNames(destinations, SHIPPED_DESTINATIONS);
    const app = getApp();
    app.ownDestinations.replace(destinations.map(({ name, destination }) => ({ name, content: destination })));
    return json(listOf(app));
  });
