import { json } from '@sveltejs/kit';
import * as contentDisposition from 'content-disposition';
import { z } from 'zod';
import { destinationSchema } from '$lib/core/destinations';
import { trackIdSchema } from '$lib/core/id';
import { namingSchema, slug, USUAL_NAMING } from '$lib/core/naming';
import { getApp, type App } from '$lib/server/app';
import { exportAsked } from '$lib/server/formats/asked';
import { bundle, namesOf, type BundleItem } from '$lib/server/formats/bundle';
import { answer, readJson } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

const MOST_FILES = 5000;
const value = z.union([z.string().max(200), z.number(), z.boolean()]);
const more = {
  /** A pattern alone, or all of how files are named. */
  names: z.union([namingSchema.unwrap().shape.pattern, namingSchema]).optional(),
  /** What the archive itself is called. */
  title: z.string().max(300).optional(),
  /** Only the names are told. */
  dryRun: z.boolean().optional()
};
const bundleRequest = z.union([
  z.strictObject({
    items: z
      .array(
        z.strictObject({
          trackId: trackIdSchema,
          format: z.string().max(40),
          options: z.record(z.string().max(40), value).optional()
        })
      )
      .min(1)
      .max(MOST_FILES),
    ...more
  }),
  z.strictObject({
    /** Kept as the one that was handed over to last. */
    destination: destinationSchema,
    trackIds: z.array(trackIdSchema).max(MOST_FILES).optional(),
    /** All the tracks of each. */
    recordingIds: z.array(z.string().max(64)).max(MOST_FILES).optional(),
    /** All of it as it is of a trim. */
    trimId: z.string().max(64).optional(),
    ...more
  })
]);
type BundleRequest = z.infer<typeof bundleRequest>;

function itemsOf(app: App, request: BundleRequest): readonly BundleItem[] {
  const asked = (trackId: BundleItem['trackId'], format: string, options: Readonly<Record<string, unknown>>) => {
    const said = Object.entries(options).map(([name, one]): [string, string] => [
      name,
      String(typeof one === 'boolean' ? Number(one) : one)
    ]);
    return { trackId, ...exportAsked(new URLSearchParams([['format', format], ...said])) };
  };
  if ('items' in request)
    return request.items.map(({ trackId, format, options = {} }) => asked(trackId, format, options));
  const { destination, trackIds = [], recordingIds = [], trimId } = request;
  const ofTrim = trimId === undefined ? {} : { trimId };
  const all = [
    ...trackIds,
    ...recordingIds.flatMap((id) => app.trackStore.listOf(app.getRecording(id).id).map((track) => track.id))
  ];
  const items = all.flatMap((id) =>
    destination.formats.map(({ format, options }) => asked(id, format, { ...options, ...ofTrim }))
  );
  if (items.length === 0)
    throw new ApiProblem(422, 'nothing_to_bundle', 'There is no track in this: hear the recordings first.');
  if (items.length > MOST_FILES)
    throw new ApiProblem(422, 'too_many_files', `A bundle holds ${MOST_FILES} files at most: choose fewer.`);
  return items;
}

/** Files of tracks as one ZIP, with `contents.csv`. */
export const POST = ({ request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const asked = await readJson(request, bundleRequest);
    const usual = 'destination' in asked ? asked.destination.naming : USUAL_NAMING;
    const { names = usual, title = '', dryRun = false } = asked;
    const naming = typeof names === 'string' ? { ...usual, pattern: names } : names;
    const items = itemsOf(app, asked);
    if (dryRun) return json({ names: namesOf(app, items, naming) });
    if ('destination' in asked) app.lastDestination.set(asked.destination);
    return new Response(bundle(app, items, naming, request.signal), {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': contentDisposition.create(`${slug(title) || 'captions'}.zip`)
      }
    });
  });
