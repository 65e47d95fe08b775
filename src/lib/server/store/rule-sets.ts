/** A house's own sets of rules, by name. */
import { z } from 'zod';
import { ruleSetSchema, rulesSchema, type RuleSet } from '$lib/core/track';
import type { Db } from './database';

const rowSchema = z.object({ name: z.string(), rules: z.string() });

export class RuleSetStore {
  readonly #db: Db;
  constructor(db: Db) {
    this.#db = db;
  }

  list(): RuleSet[] {
    return this.#db
      .prepare('SELECT name, rules FROM rule_sets ORDER BY name')
      .all()
      .map((raw) => {
        const { name, rules } = rowSchema.parse(raw);
        return ruleSetSchema.parse({ name, rules: rulesSchema.parse(JSON.parse(rules)) });
      });
  }

  replace(sets: readonly RuleSet[]): void {
    this.#db.transaction(() => {
      this.#db.prepare('DELETE FROM rule_sets').run();
      const insert = this.#db.prepare('INSERT INTO rule_sets (name, rules) VALUES (?, ?)');
      for (const { name, rules } of sets) insert.run(name, JSON.stringify(rules));
    })();
  }
}
