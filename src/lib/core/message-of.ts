/** What a caught value says: anything can be thrown. */
export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
