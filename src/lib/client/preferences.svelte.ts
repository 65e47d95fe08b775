/** What this browser remembers of how its user works. */
import { z } from 'zod';

const schema = z.object({
  mode: z.enum(['light', 'dark', 'system']).default('system'),
  rowMs: z.number().min(4000).max(40_000).default(8000),
  singleLetters: z.boolean().default(true)
});
type Stored = z.infer<typeof schema>;
const KEY = 'vinetap:preferences';

function load(): Stored {
  try {
    return schema.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    // What an older version stored is no reason to fail: the defaults stand in.
    return schema.parse({});
  }
}

class Preferences {
  #stored: Stored = $state.raw(load());

  get mode(): Stored['mode'] {
    return this.#stored.mode;
  }
  get rowMs(): number {
    return this.#stored.rowMs;
  }
  get singleLetters(): boolean {
    return this.#stored.singleLetters;
  }

  set(change: Partial<Stored>): void {
    this.#stored = { ...this.#stored, ...change };
    localStorage.setItem(KEY, JSON.stringify(this.#stored));
    if (change.mode !== undefined) this.#showMode(change.mode);
  }

  #showMode(mode: Stored['mode']): void {
    localStorage.setItem('vinetap:mode', mode);
    const isDark = mode === 'dark' || (mode === 'system' && matchMedia('(prefers-color-scheme: dark)').matches);
    document.documentElement.dataset.mode = isDark ? 'dark' : 'light';
  }
}

export const preferences = new Preferences();
