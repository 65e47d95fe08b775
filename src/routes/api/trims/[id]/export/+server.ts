import * as contentDisposition from 'content-disposition';
import { formatCutList } from '$lib/core/trims';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { cutListAsked } from '$lib/server/trims/cut-list';
import type { RequestEvent } from './$types';

/** The cut list: `format` otio, edl or csv. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const { trim, format, options, mime, name } = cutListAsked(getApp(), params.id, url.searchParams);
    return new Response(formatCutList(trim, format, options), {
      headers: { 'content-type': mime, 'content-disposition': contentDisposition.create(name) }
    });
  });
