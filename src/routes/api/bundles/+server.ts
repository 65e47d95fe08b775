import * as contentDisposition from 'content-disposition';
import { z } from 'zod';
import { trackIdSchema } from '$lib/core/id';
import { namingSchema, slug, USUAL_NAMING } from '$lib/core/naming';
import { getApp } from '$lib/server/app';
import { exportAsked } from '$lib/server/formats/asked';
import { bundle } from '$lib/server/formats/bundle';
import { answer, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const value = z.union([z.string().max(200), z.number(), z.boolean()]);
const bundleRequest = z.strictObject({
  items: z
    .array(
      z.strictObject({
        trackId: trackIdSchema,
        format: z.string().max(40),
        options: z.record(z.string().max(40), value).optional()
      })
    )
    .min(1)
    .max(1000),
  /** A pattern alone, or all of how files are named. */
  names: z.union([namingSchema.unwrap().shape.pattern, namingSchema]).optional(),
  /** What the archive itself is called. */
  title: z.string().max(300).optional()
});

/** Files of tracks as one ZIP, with `contents.csv`. */
export const POST = ({ request }: RequestEvent) =>
  answer(async () => {
    const { items, names = USUAL_NAMING, title = '' } = await readJson(request, bundleRequest);
    const naming = typeof names === 'string' ? { ...USUAL_NAMING, pattern: names } : names;
    const asked = items.map(({ trackId, format, options = {} }) => {
      const said = Object.entries(options).map(([name, one]): [string, string] => [
        name,
        String(typeof one === 'boolean' ? Number(one) : one)
      ]);
      return { trackId, ...exportAsked(new URLSearchParams([['format', format], ...said])) };
    });
    return new Response(bundle(getApp(), asked, naming, request.signal), {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': contentDisposition.create(`${slug(title) || 'captions'}.zip`)
      }
    });
  });
