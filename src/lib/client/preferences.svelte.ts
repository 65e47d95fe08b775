/** What this browser remembers of how its user works. */
import { z } from 'zod';
import { colorSchema } from '$lib/core/track';
import { USUAL_PHRASES } from '$lib/core/trims';
import { keySetSchema, type ChangedKeys, type KeySet } from './keys/key-set';

/** How many speak: one, or not told apart; found out; a number. */
export const VOICES = ['one', 'auto', '2', '3', '4', '5', '6'] as const;

const schema = z.object({
  mode: z.enum(['light', 'dark', 'system']).default('system'),
  rowMs: z.number().min(4000).max(40_000).default(8000),
  singleLetters: z.boolean().default(true),
  /** The user's own sets of keys. */
  keySets: z.array(keySetSchema).max(40).readonly().default([]),
  /** The name of the one in use; `null`: the keys as they come. */
  keySet: z.string().nullable().default(null),
  /** How far the playhead goes back when it is paused. */
  backOnPauseMs: z.number().min(0).max(5000).default(0),
  /** How far a key moves an edge: a frame of the picture, or ten milliseconds. */
  nudge: z.enum(['frame', '10 ms']).default('frame'),
  /** Times of cues as on a clock, or as pictures are counted. */
  timesAs: z.enum(['clock', 'frames']).default('clock'),
  /** Whether what follows moves along. */
  ripple: z.boolean().default(false),
  /** What the column beside the trellis shows. */
  timePanel: z.enum(['cue', 'rules', 'ease', 'sync', 'cut']).default('cue'),
  timeView: z.enum(['trellis', 'table', 'both']).default('trellis'),
  soundView: z.enum(['wave', 'spectrum', 'both']).default('wave'),
  /** How recordings were heard last. */
  hearing: z
    .object({ language: z.string().max(40), voices: z.enum(VOICES), figures: z.boolean(), oneWordPerCue: z.boolean() })
    .readonly()
    .default({ language: 'en', voices: 'one', figures: true, oneWordPerCue: false }),
  /** Colours that were given to captions last, the newest first. */
  recentColors: z.array(colorSchema).max(12).readonly().default([]),
  /** What the column beside a trim shows. */
  trimPanel: z.enum(['pauses', 'hesitations', 'joins', 'captions', 'away']).default('pauses'),
  /** Phrases that say nothing, to be found where a recording is trimmed. */
  fillerPhrases: z
    .array(z.string().min(1).max(100))
    .max(200)
    .readonly()
    .default([...USUAL_PHRASES]),
  /** What the column beside the page shows. */
  readPanel: z.enum(['doubts', 'find', 'cue', 'outline', 'changes']).default('doubts')
});
type Stored = z.infer<typeof schema>;
const KEY = 'vinetap:preferences';

function load(): Stored {
  try {
    return schema.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    // Values stored by an older version that cannot be read are replaced by the defaults.
    return schema.parse({});
  }
}

const NO_CHANGED_KEYS: ChangedKeys = {};

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
  get keySets(): readonly KeySet[] {
    return this.#stored.keySets;
  }
  get keySet(): KeySet | null {
    return this.#stored.keySets.find(({ name }) => name === this.#stored.keySet) ?? null;
  }
  get changedKeys(): ChangedKeys {
    return this.keySet?.keys ?? NO_CHANGED_KEYS;
  }
  get backOnPauseMs(): number {
    return this.#stored.backOnPauseMs;
  }
  get nudge(): Stored['nudge'] {
    return this.#stored.nudge;
  }
  get timesAs(): Stored['timesAs'] {
    return this.#stored.timesAs;
  }
  get ripple(): boolean {
    return this.#stored.ripple;
  }
  get timePanel(): Stored['timePanel'] {
    return this.#stored.timePanel;
  }
  get timeView(): Stored['timeView'] {
    return this.#stored.timeView;
  }
  get soundView(): Stored['soundView'] {
    return this.#stored.soundView;
  }
  get hearing(): Stored['hearing'] {
    return this.#stored.hearing;
  }
  get recentColors(): Stored['recentColors'] {
    return this.#stored.recentColors;
  }
  get trimPanel(): Stored['trimPanel'] {
    return this.#stored.trimPanel;
  }
  get fillerPhrases(): Stored['fillerPhrases'] {
    return this.#stored.fillerPhrases;
  }
  get readPanel(): Stored['readPanel'] {
    return this.#stored.readPanel;
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
