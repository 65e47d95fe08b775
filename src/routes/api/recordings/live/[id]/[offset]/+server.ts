import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { SAMPLE_BYTES } from '$lib/core/narration';
import { getApp } from '$lib/server/app';
import { answer, bytesOf, check } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** Twenty seconds: what waited while the server was away comes in several. */
const MOST_BYTES = 2_000_000;

const placeSchema = z.object({
  offset: z.coerce.number().int().min(0).multipleOf(SAMPLE_BYTES),
  /** Words that stand and that the sender has. */
  known: z.coerce.number().int().min(0).default(0)
});

/** Sound, 16-bit little-endian mono at 48 kHz, at its byte; the words are in the answer. */
export const PUT = ({ params, request, url }: RequestEvent) =>
  answer(async () => {
    const { offset, known } = check(
      placeSchema,
      { offset: params.offset, ...Object.fromEntries(url.searchParams) },
      'The place of the piece'
    );
    const bytes = await readPiece(request);
    return json(await getApp().narrations.write(params.id, { offsetBytes: offset, bytes, known }));
  });

/** Whole, or not at all. */
async function readPiece(request: Request): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  for await (const piece of bytesOf(request.body)) {
    length += piece.length;
    if (length > MOST_BYTES)
      throw new ApiProblem(413, 'too_large', `A piece may hold ${MOST_BYTES} bytes: send what follows in another.`);
    pieces.push(piece);
  }
  if (length === 0 || length % SAMPLE_BYTES !== 0)
    throw new ApiProblem(400, 'bad_request', 'A piece holds whole samples of 2 bytes, at least one.');
  return Buffer.concat(pieces);
}
