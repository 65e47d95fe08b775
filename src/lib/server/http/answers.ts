/** Requests in, answers out: bodies are checked by schemas, problems become the API's errors. */
import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ApiProblem, DISK_FULL, INTERNAL, isDiskFull } from '../problem';

const LARGEST_JSON_BYTES = 32_000_000;

/** A request's body, piece by piece. Who stops early may still answer: cancelling it would break the connection. */
export const bytesOf = (body: ReadableStream<Uint8Array> | null): AsyncIterable<Uint8Array> | Iterable<Uint8Array> =>
  body?.values({ preventCancel: true }) ?? [];

/** The body as the schema has it. Throws 400, 413, 422. */
export async function readJson<S extends z.ZodType>(request: Request, schema: S): Promise<z.output<S>> {
  if (Number(request.headers.get('content-length') ?? 0) > LARGEST_JSON_BYTES) throw tooLarge();
  let text = '';
  let bytes = 0;
  const decoder = new TextDecoder();
  for await (const piece of bytesOf(request.body)) {
    bytes += piece.length;
    if (bytes > LARGEST_JSON_BYTES) throw tooLarge();
    text += decoder.decode(piece, { stream: true });
  }
  let value: unknown;
  try {
    value = JSON.parse(text + decoder.decode());
  } catch {
    throw new ApiProblem(400, 'not_json', 'The body of the request is not JSON.');
  }
  return check(schema, value, 'The request');
}

/** The value as the schema has it. Throws 400 `bad_request` with every field that is wrong. */
export function check<S extends z.ZodType>(schema: S, value: unknown, what: string): z.output<S> {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const issues = read.error.issues
    .slice(0, 20)
    .map((issue) => ({ path: issue.path.join('.'), message: issue.message }));
  throw new ApiProblem(
    400,
    'bad_request',
    `${what} is not as the API has it: ${issues[0]!.path === '' ? '' : `${issues[0]!.path}: `}${issues[0]!.message}.`,
    issues
  );
}

const tooLarge = (): ApiProblem =>
  new ApiProblem(413, 'too_large', `Bodies of JSON may hold ${LARGEST_JSON_BYTES / 1_000_000} MB.`);

export function problemAnswer(problem: ApiProblem): Response {
  const { code, message, details } = problem;
  return json({ error: { code, message, ...(details !== undefined && { details }) } }, { status: problem.status });
}

/** Calls of the contract that are not built yet. */
export const notSupported = (what: string): Response =>
  problemAnswer(new ApiProblem(422, 'not_supported', `${what} is not built yet.`));

/** Runs an endpoint: its problems become answers, its bugs a 500 that says nothing of the inside. */
export async function answer(work: () => Promise<Response> | Response): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof ApiProblem) return problemAnswer(error);
    if (isDiskFull(error)) {
      return problemAnswer(new ApiProblem(507, 'disk_full', DISK_FULL));
    }
    // The client has gone and will not see this answer.
    if (error instanceof DOMException && error.name === 'AbortError') return new Response(null, { status: 499 });
    console.error(error);
    return problemAnswer(new ApiProblem(500, 'internal', INTERNAL));
  }
}
