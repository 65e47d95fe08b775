import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { speechRegions } from '$lib/core/audio';
import { findHesitations, isSteadyVoice, untoldSpeech, USUAL_PHRASES } from '$lib/core/trims';
import { getApp } from '$lib/server/app';
import { answer, check } from '$lib/server/http/answers';
import { SoundReader, soundKnown } from '$lib/server/trims/evidence';
import type { RequestEvent } from './$types';

const asked = z.array(z.string().max(100)).max(200);

/** What is said while thinking: in the words, and by its shape where no word was heard. `phrase`, given as often as is wanted: the own list. */
export const GET = ({ params, url, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const { track } = app.tracks.get(params.id);
    const phrases = check(asked, url.searchParams.getAll('phrase'), 'phrase');
    const { durationMs } = app.getRecording(track.recordingId);
    const { speech } = await soundKnown(app, track.recordingId, request.signal);
    const reader = new SoundReader(app.files.soundPath(track.recordingId));
    try {
      const shapes = untoldSpeech(track, speechRegions(speech, durationMs)).filter(({ startMs, endMs }) =>
        isSteadyVoice(reader.read(startMs, endMs))
      );
      return json({ hesitations: findHesitations(track, phrases.length === 0 ? USUAL_PHRASES : phrases), shapes });
    } finally {
      reader.close();
    }
  });
