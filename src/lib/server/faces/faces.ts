/** The typefaces of this server: those that ship, and the house's own, each brought in as one font file. */
import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, readFile, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { SHIPPED_FACES, type Face, type FontFile } from '$lib/core/faces';
import { Child, failureOf } from '../children';
import { bytesOf } from '../http/answers';
import { ApiProblem, notFound } from '../problem';
import type { OwnFace, OwnFaceStore } from '../store/own-faces';
import { fontFactsSchema } from './facts';
import { shippedFontPath } from './shipped';

/** As it comes, no font file may be larger. */
const MOST_BYTES = 20_000_000;
const LIMITS = { longestMs: 30_000, mostBytes: 600_000_000 };

const saidSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('taken'), facts: fontFactsSchema }),
  z.object({ type: z.literal('refused'), why: z.string() })
]);
type Said = z.infer<typeof saidSchema>;

const faceOf = ({ id, name, weight }: OwnFace): Face => ({
  ...{ id, name, character: 'our own', weights: [weight], italicWeights: [] }
});

export class Faces {
  readonly #folder: string;
  readonly #store: OwnFaceStore;

  /** `folder`: where the house's font files lie. */
  constructor(folder: string, store: OwnFaceStore) {
    this.#folder = folder;
    this.#store = store;
  }

  list(): readonly Face[] {
    return [...SHIPPED_FACES, ...this.#store.list().map(faceOf)];
  }

  /** The house's own, with the file of each. */
  ownFiles(): readonly { readonly face: Face; readonly path: string }[] {
    return this.#store.list().map((own) => ({ face: faceOf(own), path: this.#pathOf(own.id) }));
  }

  /** `null` where there is no such file. */
  pathOf(file: FontFile): string | null {
    const own = this.#store.list().find(({ id }) => id === file.faceId);
    if (own === undefined) return shippedFontPath(file);
    return own.weight === file.weight && !file.italic ? this.#pathOf(own.id) : null;
  }

  /** Takes a font file; the same one again is the same face. Throws `unsupported_font`, `too_large`. */
  async bringIn(body: ReadableStream<Uint8Array> | null): Promise<{ readonly face: Face; readonly embedding: string }> {
    await mkdir(this.#folder, { recursive: true });
    const arrivedPath = join(this.#folder, `${randomUUID()}.arriving`);
    const unpackedPath = `${arrivedPath}.part`;
    try {
      await receive(body, arrivedPath);
      const said = await readApart(arrivedPath, unpackedPath);
      if (said.type === 'refused') throw new ApiProblem(422, 'unsupported_font', said.why);
      const digest = createHash('sha256').update(await readFile(unpackedPath));
      const own = { id: `own-${digest.digest('hex').slice(0, 16)}`, ...said.facts };
      await rename(unpackedPath, this.#pathOf(own.id));
      this.#store.insert(own, Date.now());
      return { face: faceOf(own), embedding: own.embedding };
    } finally {
      await rm(arrivedPath, { force: true });
      await rm(unpackedPath, { force: true });
    }
  }

  /** Looks that name it are drawn in the default face until it is back. Throws `unknown_face`. */
  setRemoved(id: string, isRemoved: boolean): void {
    if (this.#store.find(id) === null) throw notFound('face', id);
    this.#store.setRemoved(id, isRemoved);
  }

  #pathOf(id: string): string {
    return join(this.#folder, id);
  }
}

const tooLarge = (): ApiProblem => new ApiProblem(413, 'too_large', `Font files may have ${MOST_BYTES / 1e6} MB.`);

async function receive(body: ReadableStream<Uint8Array> | null, path: string): Promise<void> {
  const file = await open(path, 'w');
  try {
    let bytes = 0;
    for await (const piece of bytesOf(body)) {
      bytes += piece.length;
      if (bytes > MOST_BYTES) throw tooLarge();
      await file.writeFile(piece);
    }
    if (bytes === 0) throw new ApiProblem(422, 'unsupported_font', 'The file is empty.');
  } finally {
    await file.close();
  }
}

/** In a process of its own, bounded in time and memory. */
async function readApart(arrivedPath: string, path: string): Promise<Said> {
  let said: Said | null = null;
  const child = Child.program('font', {
    ...LIMITS,
    said: {
      schema: saidSchema,
      take: (message) => {
        said = message;
        child.end();
      }
    }
  });
  child.send({ arrivedPath, path });
  const end = await child.ended;
  if (said !== null) return said;
  console.error(failureOf('the process that reads fonts', end));
  return { type: 'refused', why: 'This font file could not be read in the time and memory that is given to one.' };
}
