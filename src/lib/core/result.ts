/** Expected faults as values: what a user or a file can cause is returned, what only our mistake can is thrown. */
export type Result<T, P> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: P };

export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });
export const fail = <P>(problem: P): { readonly ok: false; readonly problem: P } => ({ ok: false, problem });

/** For the `default` of a switch over a tagged union: a new kind that is forgotten does not compile. */
export function assertNever(value: never): never {
  throw new Error(`a kind that nothing handles: ${JSON.stringify(value)}`);
}
