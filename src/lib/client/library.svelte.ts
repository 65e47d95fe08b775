/**
 * The recordings as a list of any length: pages of it as they come into sight, what is looked for, what is chosen. One
 * for the window, so that it stands as it was left when its user comes back.
 */
import { messageOf } from '$lib/core/message-of';
import { api, type LibraryQuery, type ListedRecording, type Project } from './api';

const PAGE = 50;
/** Changes that come one behind the other are fetched together. */
const GATHER_MS = 150;

/** All recordings, the newest first. */
export const EVERYTHING: LibraryQuery = {
  ...{ text: '', language: '', work: '', project: '' },
  ...{ sort: 'added', isReversed: false }
};

export class Library {
  query: LibraryQuery = $state.raw(EVERYTHING);
  /** How many are listed; `null` until that is known. */
  total: number | null = $state.raw(null);
  languages: readonly string[] = $state.raw([]);
  projects: readonly Project[] = $state.raw([]);
  notSearchedYet = $state(0);
  failure: string | null = $state(null);
  chosen: ReadonlySet<string> = $state.raw(new Set());
  /** The row that keys act on. */
  at = $state(0);
  #pages: ReadonlyMap<number, readonly ListedRecording[]> = $state.raw(new Map());
  #sight = { from: 0, to: 0 };
  /** From where Shift chooses. */
  #anchor = 0;
  #asked = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;

  readonly isNarrowed: boolean = $derived(
    [this.query.text, this.query.language, this.query.work, this.query.project].some((value) => value !== '')
  );

  /** The recording of a row; `null` while it is fetched. */
  row(at: number): ListedRecording | null {
    return this.#pages.get(Math.floor(at / PAGE))?.[at % PAGE] ?? null;
  }

  /** The pages of these rows are fetched where they are not there. */
  see(from: number, to: number): void {
    this.#sight = { from, to };
    void this.#fetch(this.#seen().filter((page) => !this.#pages.has(page)));
  }

  look(change: Partial<LibraryQuery>): void {
    this.query = { ...this.query, ...change };
    this.at = 0;
    this.letGo();
    this.refresh({ isSoon: change.text !== undefined });
  }
  lookAtAll(): void {
    const { sort, isReversed } = this.query;
    this.look({ ...EVERYTHING, sort, isReversed });
  }

  /** Fetches what is in sight anew; what is there stands until it comes. */
  refresh({ isSoon }: { readonly isSoon: boolean } = { isSoon: true }): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.#fetch(this.#seen(), { isAnew: true }), isSoon ? GATHER_MS : 0);
  }

  #seen(): number[] {
    const first = Math.floor(this.#sight.from / PAGE);
    return Array.from({ length: Math.floor(this.#sight.to / PAGE) - first + 1 }, (_, at) => first + at);
  }

  async #fetch(pages: readonly number[], { isAnew } = { isAnew: false }): Promise<void> {
    if (pages.length === 0) return;
    if (isAnew) this.#asked++;
    const asked = this.#asked;
    try {
      const [found, projects] = await Promise.all([
        Promise.all(pages.map((page) => api.library(this.query, { offset: page * PAGE, limit: PAGE }))),
        isAnew ? api.projects() : this.projects
      ]);
      if (asked !== this.#asked) return;
      const [first] = found;
      this.#pages = new Map([
        ...(isAnew ? [] : this.#pages),
        ...pages.map((page, at) => [page, found[at]!.recordings] as const)
      ]);
      this.projects = projects;
      this.total = first!.total;
      this.languages = first!.languages;
      this.notSearchedYet = first!.notSearchedYet;
      this.failure = null;
      // What is still indexed is looked for again.
      if (this.notSearchedYet > 0 && this.query.text !== '') this.refresh();
    } catch (error) {
      if (asked === this.#asked) this.failure = messageOf(error);
    }
  }

  /** As in any list: a click chooses one, Shift a range, Ctrl adds. */
  async choose(at: number, by: { readonly shiftKey: boolean; readonly ctrlKey: boolean }): Promise<void> {
    const id = this.row(at)?.id;
    if (id === undefined) return;
    this.at = at;
    if (by.shiftKey) {
      const [from, to] = [Math.min(at, this.#anchor), Math.max(at, this.#anchor)];
      const ids = await this.#idsOf(from, to);
      this.chosen = new Set(ids);
      return;
    }
    this.#anchor = at;
    if (by.ctrlKey) {
      const next = new Set(this.chosen);
      if (!next.delete(id)) next.add(id);
      this.chosen = next;
    } else this.chosen = new Set([id]);
  }

  async chooseAll(): Promise<void> {
    this.chosen = new Set(await api.libraryIds(this.query));
  }
  letGo(): void {
    this.chosen = new Set();
  }

  /** Ids of rows, those of pages not seen yet too. */
  async #idsOf(from: number, to: number): Promise<readonly string[]> {
    const known = Array.from({ length: to - from + 1 }, (_, at) => this.row(from + at)?.id);
    if (known.every((id) => id !== undefined)) return known;
    return (await api.libraryIds(this.query)).slice(from, to + 1);
  }
}

export const library = new Library();
