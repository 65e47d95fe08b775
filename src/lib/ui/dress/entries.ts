/** The entries of a record with their keys as they are typed, which `Object.entries` forgets. */
export const entriesOf = <K extends string, V>(record: Readonly<Record<K, V>>): readonly (readonly [K, V])[] =>
  Object.entries(record) as [K, V][];
