/** `1 cue`, `2 cues`. */
export const plural = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;
