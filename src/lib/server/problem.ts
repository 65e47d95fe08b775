import { CodedError } from '$lib/core/coded-error';

/** A fault that is told to the caller. */
export class ApiProblem extends CodedError {}

export const notFound = (what: string, id: string): ApiProblem =>
  new ApiProblem(404, `unknown_${what}`, `There is no ${what} ${id.slice(0, 64)}.`);
