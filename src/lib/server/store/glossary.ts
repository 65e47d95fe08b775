/** The house's terms and how they are translated. */
import { primarySubtag } from '$lib/core/track';
import { glossaryTermSchema, type GlossaryTerm } from '$lib/core/translating';
import type { Db } from './database';

/** BCP 47; only the languages themselves count, not their varieties. */
export interface LanguagePair {
  readonly from: string;
  readonly to: string;
}

/** As they are kept. */
export const languagesOf = ({ from, to }: LanguagePair): [string, string] => [primarySubtag(from), primarySubtag(to)];

export class GlossaryStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  list(pair: LanguagePair): GlossaryTerm[] {
    return this.#db
      .prepare(
        'SELECT source, target, note FROM glossary WHERE from_language = ? AND to_language = ? ORDER BY position'
      )
      .all(...languagesOf(pair))
      .map((row) => glossaryTermSchema.parse(row));
  }

  replace(pair: LanguagePair, terms: readonly GlossaryTerm[]): void {
    const languages = languagesOf(pair);
    this.#db.transaction(() => {
      this.#db.prepare('DELETE FROM glossary WHERE from_language = ? AND to_language = ?').run(...languages);
      const insert = this.#db.prepare(
        'INSERT INTO glossary (from_language, to_language, position, source, target, note) VALUES (?, ?, ?, ?, ?, ?)'
      );
      terms.forEach(({ source, target, note }, position) => insert.run(...languages, position, source, target, note));
    })();
  }
}
