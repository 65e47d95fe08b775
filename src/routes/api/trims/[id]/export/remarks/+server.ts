import { json } from '@sveltejs/kit';
import { cutListRemarks } from '$lib/core/trims';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { cutListAsked } from '$lib/server/trims/cut-list';
import type { RequestEvent } from './$types';

/** What a cut list cannot say of this trim. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const { trim, format, options } = cutListAsked(getApp(), params.id, url.searchParams);
    return json({ remarks: cutListRemarks(trim, format, options) });
  });
