/** Fonts in the browser: fetched when a text first needs them, and opened by HarfBuzz. */
import {
  DEFAULT_FACE_ID,
  findFace,
  fontKey,
  nearestFile,
  SHIPPED_FACES,
  type Face,
  type FontFile
} from '$lib/core/faces';
import { openFont, type Font, type Fonts, type HarfBuzz } from '$lib/core/layout';
import { messageOf } from '$lib/core/message-of';
import { api } from '../api';

class FontStore implements Fonts {
  faces: readonly Face[] = $state.raw(SHIPPED_FACES);
  /** Rises with each font that has come: what was laid out without it is laid out anew. */
  version = $state(0);
  /** Why a font could not be had. */
  failure: string | null = $state(null);
  readonly #fonts = new Map<string, Font>();
  readonly #asked = new Map<string, Promise<void>>();
  readonly #failed = new Set<string>();
  #harfbuzz: Promise<HarfBuzz> | undefined;
  #hasAskedFaces = false;

  readonly find = (key: string): Font | undefined => this.#fonts.get(key);

  /** Learns of the house's own faces. */
  async loadFaces(): Promise<void> {
    this.#hasAskedFaces = true;
    this.faces = await api.faces();
    this.version++;
  }

  /** Fetches what is not here yet; resolves when it has come, or cannot be had. */
  async want(files: readonly FontFile[]): Promise<void> {
    if (!this.#hasAskedFaces) await this.loadFaces().catch((error: unknown) => (this.failure = messageOf(error)));
    await Promise.all(
      files.map((file) => {
        const key = fontKey(file);
        const asked = this.#asked.get(key) ?? this.#load(key);
        this.#asked.set(key, asked);
        return asked;
      })
    );
  }

  /** Resolves with a face's font in the weight, once it is here. */
  async load(faceId: string, weight: number, italic: boolean): Promise<Font | undefined> {
    const file = nearestFile(findFace(this.faces, faceId), weight, italic);
    await this.want([file]);
    return this.#fonts.get(fontKey(file));
  }

  /** Asks again for what could not be had: the server is there again. */
  retry(): void {
    if (this.#failed.size === 0) return;
    for (const key of this.#failed) {
      this.#asked.delete(key);
      this.#fonts.delete(key);
    }
    this.#failed.clear();
    this.#harfbuzz = undefined;
    this.version++;
  }

  async #load(key: string): Promise<void> {
    try {
      this.#harfbuzz ??= import('harfbuzzjs');
      const [harfbuzz, bytes] = await Promise.all([this.#harfbuzz, api.font(key)]);
      this.#fonts.set(key, openFont(harfbuzz, key, bytes));
      this.failure = null;
    } catch (error) {
      this.failure = messageOf(error);
      this.#failed.add(key);
      await this.#standIn(key);
    }
    this.version++;
  }

  /** What cannot be had is drawn in the default face, so that the words can be seen. */
  async #standIn(key: string): Promise<void> {
    const usual = nearestFile(findFace(SHIPPED_FACES, DEFAULT_FACE_ID), 600, false);
    if (key === fontKey(usual)) return;
    await this.want([usual]);
    const font = this.#fonts.get(fontKey(usual));
    if (font !== undefined) this.#fonts.set(key, { ...font, key });
  }
}

export const fonts = new FontStore();
