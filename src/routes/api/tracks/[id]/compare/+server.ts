import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { draftErrors } from '$lib/core/compare';
import { makeWord, tokenize } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import type { RequestEvent } from './$types';

const compareRequest = z.union([
  z.strictObject({ reference: z.string().max(5_000_000) }),
  z.strictObject({ versionId: z.string() })
]);

/** The track's word errors against a reference; a version's against the track as it is now. */
export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const asked = await readJson(request, compareRequest);
    const { tracks } = getApp();
    const { track } = tracks.get(params.id);
    const compare = (had: Parameters<typeof draftErrors>[0], wanted: Parameters<typeof draftErrors>[0]) =>
      json(draftErrors(had, wanted, { stretchMs: 60_000 }).all);
    if ('reference' in asked) {
      const words = tokenize(asked.reference.replaceAll('<', ' '), track.language).map(({ text }, at) =>
        makeWord({ id: String(at), text, startMs: 0, endMs: 0, timing: 'estimated' })
      );
      return compare(track, { words });
    }
    const version = tracks.getVersion(params.id, asked.versionId);
    return compare(tracks.trackAt(params.id, version.revision), track);
  });
