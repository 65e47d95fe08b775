/** The speech models of a folder: one in each folder of it, looked at anew where something in it has changed. */
import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { SETTINGS_FILE, type EarSettings } from '$lib/core/ears';
import { fingerprintOf, lookAt } from './look';
import { ModelEar } from './recogniser';

interface Known {
  readonly fingerprint: string;
  readonly ear: ModelEar;
}

/** Files come and go while a folder is looked at. */
function nullIfGone(error: unknown): null {
  if (error instanceof Error && 'code' in error && error.code === 'ENOENT') return null;
  throw error;
}

export class Ears {
  readonly folder: string;
  readonly #known = new Map<string, Known>();
  #trying: Promise<unknown> = Promise.resolve();

  constructor(folder: string) {
    this.folder = folder;
  }

  /** All there are now, by name; each is tried out behind it. */
  async list(): Promise<readonly ModelEar[]> {
    await mkdir(this.folder, { recursive: true });
    const entries = await readdir(this.folder, { withFileTypes: true });
    // What begins with a dot is being brought in.
    const names = entries.filter((entry) => entry.isDirectory() && !entry.name.startsWith('.')).map(({ name }) => name);
    for (const name of this.#known.keys()) if (!names.includes(name)) this.#known.delete(name);
    const looked = await Promise.all(names.sort().map((name) => this.#look(name).catch(nullIfGone)));
    const ears = looked.filter((ear) => ear !== null);
    // One after the other: each may be gigabytes.
    for (const ear of ears) this.#trying = this.#trying.then(() => ear.tryOut());
    return ears;
  }

  async find(id: string): Promise<ModelEar | null> {
    return (await this.list()).find((ear) => ear.id === id) ?? null;
  }

  /** Keeps what its owner says of one beside it; `null` where it is not there. */
  async describe(id: string, settings: EarSettings): Promise<ModelEar | null> {
    const ear = await this.find(id);
    if (ear === null) return null;
    await writeFile(join(this.folder, ear.folder, SETTINGS_FILE), `${JSON.stringify(settings, null, 2)}\n`);
    return this.find(id);
  }

  async #look(name: string): Promise<ModelEar> {
    const path = join(this.folder, name);
    const fingerprint = await fingerprintOf(path);
    const known = this.#known.get(name);
    if (known?.fingerprint === fingerprint) return known.ear;
    const ear = new ModelEar(path, name, await lookAt(path));
    this.#known.set(name, { fingerprint, ear });
    return ear;
  }
}
