/**
 * What is kept of a document's history and replayed. A change takes items out of lists and puts items in, or sets
 * fields; it chooses nothing, so that it gives the same bytes wherever and whenever it is applied.
 */
import { z } from 'zod';
import { idSchema } from '../id';

/** An item of a document's list: known by its id, of which there is one in the list. */
export interface ListItem {
  readonly id: string;
}

/** A run of items that is replaced by other items. */
export interface Stretch<T extends ListItem = ListItem> {
  /** Where it begins, in the list as it is before the change. */
  readonly at: number;
  /** The item before it, `null` at the head of the list: used to find the place if the list has changed since. */
  readonly afterId: string | null;
  /** Ids of the items that are removed; they are neighbours. */
  readonly take: readonly string[];
  readonly put: readonly T[];
}

/** Fields of one item, which stays where it is. */
export interface ItemSet<T extends ListItem = ListItem> {
  /** Its index; if the list has changed since, the item is found by its id. */
  readonly at: number;
  readonly id: string;
  readonly to: Readonly<Partial<T>>;
}

/** What an item of a list looks like: one form, or one of several. */
type ItemSchema = z.ZodObject | z.ZodDiscriminatedUnion<readonly z.ZodObject[]>;

/** The lists of a document by name, and its fields that are set whole. */
export interface Shape<
  L extends Readonly<Record<string, ItemSchema>> = Readonly<Record<string, ItemSchema>>,
  F extends Readonly<Record<string, z.ZodType>> = Readonly<Record<string, z.ZodType>>
> {
  readonly lists: L;
  readonly fields: F;
}

type ItemOf<S extends Shape, K extends keyof S['lists']> = Readonly<z.infer<S['lists'][K]>> & ListItem;

/** All indices of one change count in the list as it is before that change. */
export type ChangeOf<S extends Shape> =
  | {
      [K in keyof S['lists'] & string]:
        | { readonly type: 'splice'; readonly list: K; readonly stretches: readonly Stretch<ItemOf<S, K>>[] }
        | { readonly type: 'set'; readonly list: K; readonly items: readonly ItemSet<ItemOf<S, K>>[] };
    }[keyof S['lists'] & string]
  | {
      readonly type: 'fields';
      readonly fields: { readonly [K in keyof S['fields']]?: Readonly<z.infer<S['fields'][K]>> };
    };

/** The most items a list of a document may have, and the most a change may put in. */
export const MOST_ITEMS = 200_000;

/** The schema of the changes that may be stored for a document of this shape. */
export function changesSchemaOf<S extends Shape>(shape: S): z.ZodType<readonly ChangeOf<S>[]> {
  const at = z.int().min(0);
  const changes = Object.entries(shape.lists).flatMap(([list, item]) => [
    z.object({
      type: z.literal('splice'),
      list: z.literal(list),
      stretches: z
        .array(
          z.object({
            at,
            afterId: idSchema.nullable(),
            take: z.array(idSchema).max(MOST_ITEMS),
            put: z.array(item).max(MOST_ITEMS)
          })
        )
        .max(MOST_ITEMS)
    }),
    z.object({
      type: z.literal('set'),
      list: z.literal(list),
      items: z.array(z.object({ at, id: idSchema, to: partOf(item) })).max(MOST_ITEMS)
    })
  ]);
  const fields = z.object({ type: z.literal('fields'), fields: z.object(shape.fields).partial() });
  // The type knows that the union covers the shape's own lists; the schema's inferred type does not.
  return z.array(z.union([fields, ...changes])) as unknown as z.ZodType<readonly ChangeOf<S>[]>;
}

/** Some fields of an item: of one form alone, where there are several. */
const partOf = (item: ItemSchema): z.ZodType =>
  item instanceof z.ZodObject ? fieldsOf(item) : z.union(item.options.map((option) => fieldsOf(option).strict()));

const fieldsOf = (item: z.ZodObject) => withoutDefaults(item).omit({ id: true }).partial();

/** A change that does not speak of a field leaves it: a default would set it. */
const withoutDefaults = (item: z.ZodObject): z.ZodObject =>
  z.object(
    Object.fromEntries(
      Object.entries(item.shape).map(([name, schema]) => [
        name,
        schema instanceof z.ZodDefault ? (schema.unwrap() as z.ZodType) : (schema as z.ZodType)
      ])
    )
  );
