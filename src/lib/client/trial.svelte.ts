/** Commands that are looked at before they are taken: cues are drawn with them, the track stays as it is. */
import { resolveCommands, type ClientCommand } from '$lib/core/commands';
import type { Track } from '$lib/core/track';

interface Parts {
  readonly track: () => Track;
  /** Does the commands, and says `done` or why they cannot be done. */
  readonly edit: (commands: readonly ClientCommand[], done: string) => void;
}

export class Trial {
  readonly #parts: Parts;
  /** What is tried, and on which track; an edit meanwhile makes it void. */
  #tried: { readonly commands: readonly ClientCommand[]; readonly on: Track } | null = $state.raw(null);

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** The track with what is tried; `null` while nothing is. */
  readonly track: Track | null = $derived.by(() => {
    const tried = this.#tried;
    if (tried === null || tried.on !== this.#parts.track()) return null;
    const resolved = resolveCommands(tried.on, tried.commands);
    return resolved.ok ? resolved.value.track : null;
  });

  try(commands: readonly ClientCommand[]): void {
    this.#tried = commands.length === 0 ? null : { commands, on: this.#parts.track() };
  }

  leave(): void {
    this.#tried = null;
  }

  /** Makes it the track, as one entry. */
  take(): void {
    const tried = this.#tried;
    if (tried === null || this.track === null) return;
    this.#tried = null;
    this.#parts.edit(tried.commands, 'Taken. Undo brings back what was.');
  }
}
