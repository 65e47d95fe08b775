import { beforeEach, describe, expect, test } from 'vitest';
import { z } from 'zod';
import { applyChanges, changesBetween, changesSchemaOf, type ChangeOf, type Shape } from '$lib/core/changes';
import type { DocumentKind } from '$lib/core/documents';
import { fail, ok } from '$lib/core/result';
import { LogStore } from '../store/log';
import type { Db } from '../store/database';
import { tempDatabase } from '../testing/temp-database';
import { DocumentLog } from './document-log';

/** A kind of document that the product has not: a list of errands. What holds for it holds for every kind. */
const shape = {
  lists: { errands: z.object({ id: z.string(), text: z.string().max(20) }) },
  fields: { title: z.string() }
} satisfies Shape;
const errandsSchema = z.object({
  id: z.string(),
  title: z.string(),
  errands: z.array(shape.lists.errands.readonly()).readonly()
});
type Errands = z.infer<typeof errandsSchema>;
const commandSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('add'), newId: z.string(), text: z.string() }),
  z.object({ type: z.literal('remove'), id: z.string() })
]);
type Command = z.infer<typeof commandSchema>;
type Change = ChangeOf<typeof shape>;

const resolve: DocumentKind<Errands, Command, Change>['resolve'] = (document, commands) => {
  let { errands } = document;
  for (const command of commands) {
    if (command.type === 'add') errands = [...errands, { id: command.newId, text: command.text }];
    else if (errands.some(({ id }) => id === command.id)) errands = errands.filter(({ id }) => id !== command.id);
    else return fail({ code: 'unknown_errand', message: `There is no errand ${command.id}.` });
  }
  const changes = changesBetween(document, { ...document, errands }, shape);
  const done = applyChanges<Errands, typeof shape>(document, changes);
  return done.ok ? ok({ ...done.value, changes }) : done;
};

const kind: DocumentKind<Errands, Command, Change> = {
  name: 'errands',
  form: 1,
  open: (_, raw) => errandsSchema.parse(raw),
  openCommands: (_, raw) => z.array(commandSchema).parse(raw),
  openChanges: (raw) => changesSchemaOf(shape).parse(raw),
  openUnsent: (_, raw) => z.array(commandSchema).min(1).parse(raw),
  raise: (document) => ({ document, entries: [], problem: null }),
  complete: (_, command) => command,
  resolve,
  apply: (document, changes) => {
    const done = applyChanges<Errands, typeof shape>(document, changes);
    return done.ok ? ok({ ...done.value, changes }) : done;
  },
  between: (before, after) => changesBetween(before, after, shape),
  label: (commands) => commands.map(({ type }) => type).join(', '),
  newIds: (document, command) =>
    command.type === 'add' && !document.errands.some(({ id }) => id === command.newId) ? [command.newId] : [],
  sizeOf: ({ errands }) => errands.length,
  hasId: (document, id) => document.errands.some((errand) => errand.id === id),
  takenIds: (changes) =>
    changes.flatMap((change) =>
      change.type === 'splice' ? change.stretches.flatMap(({ take }): readonly string[] => take) : []
    )
};

let db: Db;
let told: (readonly [string, number])[];
const openLog = (): DocumentLog<Errands, Command, Change> =>
  new DocumentLog({
    kind,
    store: new LogStore(db),
    isThere: (id) => id === 'e',
    summarise: () => undefined,
    onChange: (id, revision) => told.push([id, revision])
  });
const add = (newId: string, text = newId): Command => ({ type: 'add', newId, text });
const textsOf = (log: DocumentLog<Errands, Command, Change>): string =>
  log
    .get('e')
    .document.errands.map(({ text }) => text)
    .join(' ');

beforeEach(() => {
  db = tempDatabase();
  told = [];
  openLog().begin({ id: 'e', title: 'Monday', errands: [] });
});

describe('a log of any kind of document', () => {
  test('keeps what is done, takes it back and does it again, and is the same after a restart', () => {
    const log = openLog();
    log.apply('e', { revision: 0, commands: [add('wind'), add('oil')] });
    log.apply('e', { revision: 1, commands: [{ type: 'remove', id: 'wind' }] });
    expect(textsOf(log)).toBe('oil');
    log.step('e', 'undo', { revision: 2 });
    expect(textsOf(log)).toBe('wind oil');
    log.step('e', 'redo', { revision: 3 });
    expect(textsOf(log)).toBe('oil');
    expect(log.history('e')).toEqual({ undo: 'remove', redo: null });
    const again = openLog();
    expect(again.get('e')).toEqual(log.get('e'));
    expect(again.history('e')).toEqual(log.history('e'));
    expect(told).toEqual([1, 2, 3, 4].map((revision) => ['e', revision]));
  });

  test('answers a batch that it has seen with its first answer, and refuses a revision that has passed', () => {
    const log = openLog();
    const asked = { revision: 0, batchId: crypto.randomUUID(), commands: [add('wind')] };
    const first = log.apply('e', asked);
    expect(log.apply('e', asked)).toEqual(first);
    expect(textsOf(log)).toBe('wind');
    expect(() => log.apply('e', { revision: 0, commands: [add('oil')] })).toThrow(/revision/i);
  });

  test('refuses what cannot be done, what could not be read again, and an id that was used before', () => {
    const log = openLog();
    const refused = (commands: readonly Command[]): string => {
      try {
        log.apply('e', { revision: log.get('e').revision, commands });
        return 'done';
      } catch (error) {
        return (error as { code: string }).code;
      }
    };
    expect(refused([{ type: 'remove', id: 'wind' }])).toBe('unknown_errand');
    expect(refused([add('wind', 'x'.repeat(21))])).toBe('out_of_bounds');
    expect(refused([add('wind')])).toBe('done');
    expect(refused([{ type: 'remove', id: 'wind' }])).toBe('done');
    expect(refused([add('wind')])).toBe('id_taken');
    expect(textsOf(openLog())).toBe('');
  });

  test('goes on from its last snapshot, however long it is', () => {
    const log = openLog();
    for (let at = 0; at < 250; at++) log.apply('e', { revision: at, commands: [add(`n${at}`)] });
    expect(openLog().get('e')).toEqual(log.get('e'));
    expect(log.get('e').document.errands).toHaveLength(250);
    for (let at = 0; at < 250; at++) log.step('e', 'undo', { revision: 250 + at });
    expect(textsOf(openLog())).toBe('');
  });
});
