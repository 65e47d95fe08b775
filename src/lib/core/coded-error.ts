/** An error that the API answers with: HTTP status, a code to branch on, and a sentence that says what to do. */
export class CodedError extends Error {
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
