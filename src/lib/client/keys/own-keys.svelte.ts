/** Changing keys: which one is asked for, what is in the way, and the sets that are kept. */
import { preferences } from '../preferences.svelte';
import type { Command } from './commands';
import type { KeySet } from './key-set';
import { keyPressed, readKeySet, takenBy, withKey, writeKeySet, type KeyWay } from './key-sets';

interface Asked {
  readonly command: Command;
  readonly way: KeyWay;
}

/** The name of a set that begins with a changed key. */
const FIRST_NAME = 'My keys';

export class OwnKeys {
  /** The key that the next press is for. */
  asking: Asked | null = $state.raw(null);
  /** Another command has the key that was pressed. */
  conflict: (Asked & { readonly key: string; readonly other: Command }) | null = $state.raw(null);
  told: string | null = $state(null);
  /** The set that was deleted last, until something else is done. */
  removed: KeySet | null = $state.raw(null);

  ask(command: Command, way: KeyWay): void {
    this.leave();
    this.asking = { command, way };
  }
  leave(): void {
    this.asking = null;
    this.conflict = null;
    this.told = null;
    this.removed = null;
  }

  press(event: KeyboardEvent): void {
    const { asking } = this;
    const pressed = asking === null ? null : keyPressed(event, asking.way);
    if (asking === null || pressed === null) return;
    if (!pressed.ok) {
      this.told = pressed.problem;
      return;
    }
    const other = takenBy(asking.command, asking.way, pressed.value, preferences.changedKeys);
    if (other === null) return this.set(pressed.value);
    this.asking = null;
    this.conflict = { ...asking, key: pressed.value, other };
  }

  /** Gives the key that was asked for; `null`: none. */
  set(key: string | null): void {
    const { asking } = this;
    this.leave();
    if (asking !== null) this.#change(asking, key);
  }

  /** The command gets the key, and the one that had it has none. */
  settle(): void {
    const { conflict } = this;
    this.leave();
    if (conflict === null) return;
    this.#change({ command: conflict.other, way: conflict.way }, null);
    this.#change(conflict, conflict.key);
  }

  reset(command: Command): void {
    for (const way of ['surface', 'typing'] as const) {
      const other = command[way] === null ? null : takenBy(command, way, command[way], preferences.changedKeys);
      if (other !== null) this.#change({ command: other, way }, null);
      this.#change({ command, way }, command[way]);
    }
    this.leave();
  }

  use(name: string | null): void {
    this.leave();
    preferences.set({ keySet: name });
  }

  /** The keys as they are now, under a name; false where it is taken. */
  saveAs(name: string): boolean {
    const set = { name: name.trim(), keys: preferences.changedKeys };
    if (preferences.keySets.some((one) => one.name === set.name)) {
      this.told = `There is a set “${set.name}” already; choose another name.`;
      return false;
    }
    this.#keep(set);
    this.told = `Saved as “${set.name}”.`;
    return true;
  }

  remove(): void {
    const gone = preferences.keySet;
    if (gone === null) return;
    preferences.set({ keySets: preferences.keySets.filter((set) => set.name !== gone.name), keySet: null });
    this.leave();
    this.removed = gone;
  }

  bringBack(): void {
    const { removed } = this;
    this.leave();
    if (removed !== null) this.#keep(removed);
  }

  takeOut(): string {
    return writeKeySet(preferences.keySet ?? { name: 'Vine Tap', keys: {} });
  }

  bringIn(text: string): void {
    const read = readKeySet(text);
    this.leave();
    if (!read.ok) {
      this.told = read.problem;
      return;
    }
    const { set, passedOver } = read.value;
    this.#keep(set);
    this.told = [`“${set.name}” is in use.`, passedOver].filter((part) => part !== null).join(' ');
  }

  #change({ command, way }: Asked, key: string | null): void {
    const name = preferences.keySet?.name ?? FIRST_NAME;
    this.#keep({ name, keys: withKey(preferences.changedKeys, command, way, key) });
  }
  /** In the place of one with this name, and in use. */
  #keep(set: KeySet): void {
    preferences.set({
      keySets: [...preferences.keySets.filter(({ name }) => name !== set.name), set],
      keySet: set.name
    });
  }
}
