/** What a house keeps by name on the server (looks, sheets, destinations): the list of it, and what is done with it. */
interface Named {
  readonly name: string;
  readonly version: number;
  readonly shipped: boolean;
}

interface Parts<K extends Named, O extends { readonly name: string }> {
  readonly shipped: readonly K[];
  readonly load: () => Promise<readonly K[]>;
  /** The house's own, the whole list anew; gives all there are. */
  readonly save: (own: readonly O[]) => Promise<readonly K[]>;
  /** One without its version. */
  readonly plain: (one: O) => O;
}

export class Kept<K extends Named & O, O extends { readonly name: string }> {
  readonly #parts: Parts<K, O>;
  list: readonly K[];
  /** What was deleted last. */
  removed: O | null = $state.raw(null);
  readonly own: readonly K[] = $derived.by(() => this.list.filter(({ shipped }) => !shipped));

  constructor(parts: Parts<K, O>) {
    this.#parts = parts;
    this.list = $state.raw(parts.shipped);
  }

  async load(): Promise<void> {
    this.list = await this.#parts.load();
  }

  isShipped(name: string): boolean {
    return this.list.some((kept) => kept.shipped && kept.name === name);
  }

  /** Keeps things by their names, in place of those that have the same. */
  async keep(items: readonly O[]): Promise<void> {
    const names = new Set(items.map(({ name }) => name));
    await this.#save([...this.own.filter(({ name }) => !names.has(name)), ...items]);
  }

  /** Keeps what a file brings; what has the name of one that ships is ours. */
  bringIn(items: readonly O[]): Promise<void> {
    return this.keep(items.map((one) => (this.isShipped(one.name) ? { ...one, name: `${one.name} (ours)` } : one)));
  }

  async rename(kept: K, name: string): Promise<void> {
    await this.#save(this.own.filter((one) => one.name !== name).map((one) => (one === kept ? { ...one, name } : one)));
  }

  async remove(name: string): Promise<void> {
    const gone = this.own.find((one) => one.name === name) ?? null;
    await this.#save(this.own.filter((one) => one.name !== name));
    this.removed = gone;
  }

  /** Keeps what was deleted last once more, and gives it. */
  async bringBack(): Promise<O | null> {
    const { removed } = this;
    if (removed !== null) await this.keep([removed]);
    this.removed = null;
    return removed;
  }

  async #save(own: readonly O[]): Promise<void> {
    this.list = await this.#parts.save(own.map((one) => this.#parts.plain(one)));
  }
}
