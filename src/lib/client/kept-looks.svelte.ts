/** The looks that are kept on the server. */
import { SHIPPED_LOOKS, type KeptLook, type OwnLook } from '$lib/core/looks';
import type { Look } from '$lib/core/track';
import { api } from './api';

export class KeptLooks {
  list: readonly KeptLook[] = $state.raw(SHIPPED_LOOKS);

  readonly own: readonly KeptLook[] = $derived.by(() => this.list.filter(({ shipped }) => !shipped));

  async load(): Promise<void> {
    this.list = await api.looks();
  }

  isShipped(name: string): boolean {
    return this.list.some((kept) => kept.shipped && kept.name === name);
  }

  /** Keeps looks by their names, in place of those that have the same. */
  async keep(looks: readonly OwnLook[]): Promise<void> {
    const names = new Set(looks.map(({ name }) => name));
    this.list = await api.saveLooks([...this.own.filter(({ name }) => !names.has(name)), ...looks].map(plain));
  }

  async rename(kept: KeptLook, name: string): Promise<void> {
    this.list = await api.saveLooks(
      this.own.filter((one) => one.name !== name).map((one) => plain(one === kept ? { ...one, name } : one))
    );
  }

  /** Gives what brings it back. */
  async remove(name: string): Promise<{ readonly name: string; readonly look: Look } | null> {
    const gone = this.own.find((one) => one.name === name) ?? null;
    this.list = await api.saveLooks(this.own.filter((one) => one.name !== name).map(plain));
    return gone;
  }
}

const plain = ({ name, look }: OwnLook): OwnLook => ({ name, look });
