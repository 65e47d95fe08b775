import { CodedError } from '$lib/core/coded-error';

/** A fault that is told to the caller. */
export class ApiProblem extends CodedError {}

/** Fault of a full disk, as SQLite and as Node say it, in this process or in a thread; found at its root. */
export function isDiskFull(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  return ('code' in error && (error.code === 'SQLITE_FULL' || error.code === 'ENOSPC')) || isDiskFull(error.cause);
}
export const DISK_FULL = 'The disk of the data folder is full; nothing was changed. Make room and try again.';

export const INTERNAL = 'Something went wrong in the server; its log says what.';

export const notFound = (what: string, id: string): ApiProblem =>
  new ApiProblem(404, `unknown_${what}`, `There is no ${what} ${id.slice(0, 64)}.`);
