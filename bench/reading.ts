/** Rows of Read: doubts and finding over two hours, near-misses of names nothing was tuned on, keys for a real draft. */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { chromium } from '@playwright/test';
import { diffArrays } from 'diff';
import { findHits, replaceHits } from '../src/lib/core/search';
import { bareWord } from '../src/lib/core/wording';
import { resolveCommands, completeCommand } from '../src/lib/core/commands';
import { recue } from '../src/lib/core/cueing';
import { HOUSE_RULES, makeTrack } from '../src/lib/core/track';
import { formatSrt } from '../src/lib/core/formats';
import { correctByKeys } from '../e2e/correcting';
import { ask, jobEnd, send, speech, startServer, tone, uploadMapped, type Server } from '../tests/server/harness';
import { makeTalk } from './material';
import { MORE_NAMES_TALKS, NAMES_TALK } from './names';
import type { Row } from './table';

const LONG_WORDS = 18_000;

const putTerms = (server: Server, recordingId: string, terms: readonly string[]) =>
  ask(server, `/api/recordings/${recordingId}/vocabulary`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ terms: terms.map((text) => ({ text })) })
  });

async function heardTrack(server: Server, recordingId: string): Promise<string> {
  const asked = await send(server, `/api/recordings/${recordingId}/transcriptions`, {
    ...{ engine: 'pocketsphinx-en-us', language: 'en', figures: false, vocabulary: [] }
  });
  return (await jobEnd(server, asked.body.job.id)).result.trackId;
}

interface Place {
  readonly term: string;
  readonly from: number;
  readonly to: number;
  readonly isRight: boolean;
}

/** Where each term was said, as places in what was heard: between the nearest words that were heard right. */
function placesOf(terms: readonly string[], spoken: readonly string[], heard: readonly string[]): Place[] {
  const at = new Array<number>(spoken.length).fill(-1);
  let [spokenAt, heardAt] = [0, 0];
  for (const part of diffArrays([...spoken], [...heard])) {
    if (!part.added && !part.removed)
      for (let step = 0; step < part.count; step++) at[spokenAt + step] = heardAt + step;
    if (!part.added) spokenAt += part.count;
    if (!part.removed) heardAt += part.count;
  }
  return terms.flatMap((term) => {
    const own = term.split(' ').map(bareWord);
    return spoken.flatMap((_, from): Place[] => {
      if (!own.every((word, step) => spoken[from + step] === word)) return [];
      const before = at.slice(0, from).findLast((place) => place >= 0) ?? -1;
      const after = at.slice(from + own.length).find((place) => place >= 0) ?? heard.length;
      return [{ term, from: before + 1, to: after, isRight: own.every((_word, step) => at[from + step]! >= 0) }];
    });
  });
}

/** Names that nothing was tuned on, heard plainly, then looked for by their sound. */
async function nearMissRows(server: Server): Promise<Row[]> {
  let [wrong, found, untrue] = [0, 0, 0];
  const voices = ['awb', 'slt', 'rms'];
  for (const { terms, sentences, voice } of [NAMES_TALK, ...MORE_NAMES_TALKS].flatMap((talk) =>
    voices.map((voice) => ({ ...talk, voice }))
  )) {
    const id = await uploadMapped(server, `names-${voice}.wav`, speech(sentences, voice));
    const trackId = await heardTrack(server, id);
    await putTerms(server, id, terms);
    const { words } = (await ask(server, `/api/tracks/${trackId}`)).body.track;
    const ids: string[] = words.map((word: { id: string }) => word.id);
    const heard: string[] = words.map((word: { text: string }) => bareWord(word.text));
    const spoken = sentences.join(' ').split(' ').map(bareWord);
    const places = placesOf(terms, spoken, heard);
    const { doubts } = (await ask(server, `/api/tracks/${trackId}/doubts`)).body;
    const offers = doubts
      .filter((doubt: { reason: string }) => doubt.reason === 'near_miss')
      .map((doubt: { wordIds: string[]; candidates: { text: string }[] }) => ({
        from: ids.indexOf(doubt.wordIds[0]!),
        to: ids.indexOf(doubt.wordIds.at(-1)!) + 1,
        text: doubt.candidates[0]!.text.split(' ').map(bareWord).join(' ')
      })) as { from: number; to: number; text: string }[];
    const isFor = (place: Place, offer: (typeof offers)[number]): boolean =>
      offer.text === place.term.split(' ').map(bareWord).join(' ') && offer.from < place.to && offer.to > place.from;
    const missed = places.filter((place) => !place.isRight);
    wrong += missed.length;
    found += missed.filter((place) => offers.some((offer) => isFor(place, offer))).length;
    untrue += offers.filter((offer) => !places.some((place) => isFor(place, offer))).length;
  }
  return [
    { what: `names heard wrong, offered by their sound (of ${wrong})`, value: (100 * found) / wrong, unit: '%' },
    { what: 'false offers for each true one', value: untrue / found, unit: '', budget: 1 }
  ];
}

/** Two hours of captions: doubts, finding, replacing. */
async function longRows(server: Server): Promise<Row[]> {
  const words = makeTalk(LONG_WORDS);
  const bare = makeTrack({ id: 't', recordingId: 'r', language: 'en', title: '', words, cues: [] });
  let minted = 0;
  const mint = (): string => `m${minted++}`;
  const track = { ...bare, cues: recue(bare, HOUSE_RULES, mint) };
  // Nothing else goes on beside it.
  const recordingId = await uploadMapped(server, 'long.wav', tone(5));
  const imported = await send(server, `/api/recordings/${recordingId}/tracks`, {
    ...{ format: 'srt', language: 'en', content: formatSrt(track) }
  });
  await putTerms(server, recordingId, ['Tobin Ashe', 'escapement', 'Merrowby', 'Ines Calder', 'going train']);
  const timed = async (work: () => unknown): Promise<number> => {
    const from = performance.now();
    await work();
    return performance.now() - from;
  };
  const look = () => ask(server, `/api/tracks/${imported.body.track.id}/doubts`);
  const [first, again] = [await timed(look), await timed(look)];
  const query = { text: 'clock', matchCase: false, wholeWord: false, soundsLike: false };
  findHits(words, query);
  const fresh = words.slice();
  const find = await timed(() => findHits(fresh, query));
  const other = words.slice();
  const findSound = await timed(() => findHits(other, { ...query, text: 'escapement', soundsLike: true }));
  const hits = findHits(words, query);
  const replace = await timed(() => {
    const edits = replaceHits(words, hits, 'timepiece').map((edit) => completeCommand(track, edit, { mint, atMs: 5 }));
    if (!resolveCommands(track, edits).ok) throw new Error('the replacement does not apply');
  });
  return [
    { what: 'doubts of 18,000 words, the first time', value: first, unit: 'ms', budget: 3000 },
    { what: 'doubts of 18,000 words, again', value: again, unit: 'ms', budget: 3000 },
    { what: 'finding a text in 18,000 words', value: find, unit: 'ms', budget: 50 },
    { what: 'finding by sound in 18,000 words', value: findSound, unit: 'ms', budget: 50 },
    { what: `writing another text in ${hits.length} places`, value: replace, unit: 'ms' }
  ];
}

/** The demo's talk from its draft to its script, by keys. */
async function keyRows(server: Server): Promise<Row[]> {
  const { talk } = JSON.parse(readFileSync(resolve('demo/scripts.json'), 'utf8'));
  const id = await uploadMapped(server, talk.file, readFileSync(resolve('demo/media', talk.file)));
  await putTerms(server, id, talk.vocabulary);
  const trackId = await heardTrack(server, id);
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium' });
  const page = await browser.newPage();
  await page.goto(`${server.url}/recordings/${id}/tracks/${trackId}/read`);
  const reference = talk.parts.map((part: { text?: string }) => part.text ?? '').join(' ');
  const { keys, errors, byDoubts } = await correctByKeys(page, server, { trackId, reference });
  await browser.close();
  return [
    { what: `keys for each of ${errors} places put right in the demo talk`, value: keys / errors, unit: '' },
    { what: 'of these, those that a doubt led to', value: (100 * byDoubts) / errors, unit: '%' }
  ];
}

export async function readingRows(): Promise<Row[]> {
  const server = await startServer();
  const rows = [...(await longRows(server)), ...(await nearMissRows(server)), ...(await keyRows(server))];
  await server.stop();
  return rows;
}
