import { json } from '@sveltejs/kit';
import { querySchema } from '$lib/core/search';
import { getApp } from '$lib/server/app';
import { answer, check } from '$lib/server/http/answers';
import { searchTracks } from '$lib/server/search';
import type { RequestEvent } from './$types';

/** Where a text stands in the tracks of the workspace. */
export const GET = ({ url }: RequestEvent) =>
  answer(() => {
    const { searchParams } = url;
    const isSet = (name: string): boolean => searchParams.get(name) === '1';
    const asked = {
      text: searchParams.get('text') ?? '',
      matchCase: isSet('matchCase'),
      wholeWord: isSet('wholeWord'),
      soundsLike: isSet('soundsLike')
    };
    const { found, notSearched } = searchTracks(getApp(), check(querySchema, asked, 'The search'));
    return json({ tracks: found, notSearched });
  });
