/** A fault that is told to the caller: an HTTP status, a code to branch on and a sentence that says what to do. */
export class ApiProblem extends Error {
  readonly status: number;
  readonly code: string;
  readonly details: unknown;

  constructor(status: number, code: string, message: string, details?: unknown) {
    super(message);
    this.status = status;
    this.code = code;
    this.details = details;
  }
}

export const notFound = (what: string, id: string): ApiProblem =>
  new ApiProblem(404, `unknown_${what}`, `There is no ${what} ${id.slice(0, 64)}.`);
