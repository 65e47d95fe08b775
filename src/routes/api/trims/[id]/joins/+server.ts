import { json } from '@sveltejs/kit';
import { judgeJoins } from '$lib/core/trims';
import { getApp } from '$lib/server/app';
import { answer } from '$lib/server/http/answers';
import { joinEvidence } from '$lib/server/trims/evidence';
import type { RequestEvent } from './$types';

/** Where pieces meet, what is likely to be heard there, and better edges. */
export const GET = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { recordingId } = app.trims.get(params.id).trim;
    const { evidence, close } = await joinEvidence(app, recordingId, request.signal);
    try {
      // As it is by now: what is known of the sound may have been waited for.
      const { trim, revision } = app.trims.get(params.id);
      return json({ revision, joins: judgeJoins(trim, evidence) });
    } finally {
      close();
    }
  });
