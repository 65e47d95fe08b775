/** What a house keeps by name (looks, sheets): files in which it is taken out and brought in, and newer versions. */
import { z } from 'zod';
import { fail, ok, type Result } from './result';

/** What a track's own was taken from, where it has changed since. */
export function findNewer<K extends { readonly name: string; readonly version: number }>(
  from: { readonly name: string; readonly version: number } | null,
  kept: readonly K[]
): K | null {
  const now = from === null ? undefined : kept.find(({ name }) => name === from.name);
  return now !== undefined && now.version > from!.version ? now : null;
}

const FORM = 1;
const MOST = 200;

/** A JSON file of kept things: `{ "vineTapLooks": 1, "looks": [{ "name", … }] }` for `looks`. */
export function keptFile<S extends z.ZodType>(noun: 'look' | 'sheet', itemSchema: S) {
  const list = `${noun}s`;
  const mark = `vineTap${list[0]!.toUpperCase()}${list.slice(1)}`;
  const formSchema = z.looseObject({ [mark]: z.int() });
  const fileSchema = z.object({ [list]: z.array(itemSchema).min(1).max(MOST) });
  return {
    format: (items: readonly z.output<S>[]): string => `${JSON.stringify({ [mark]: FORM, [list]: items }, null, 2)}\n`,

    /** What stands in the file, or why there is nothing to be had. */
    parse: (text: string): Result<readonly z.output<S>[], { readonly message: string }> => {
      let raw: unknown;
      try {
        raw = JSON.parse(text);
      } catch {
        return fail({ message: `This is not a file of ${list}: it is no JSON. Choose one that was saved here.` });
      }
      const form = formSchema.safeParse(raw);
      if (!form.success) return fail({ message: `This JSON file holds no ${list}. Choose one that was saved here.` });
      if ((form.data[mark] as number) > FORM)
        return fail({
          message: `These ${list} were saved by a newer version of Vine Tap, which this one cannot read.`
        });
      const read = fileSchema.safeParse(raw);
      if (read.success) return ok(read.data[list] as readonly z.output<S>[]);
      const [issue] = read.error.issues;
      return fail({
        message: `A ${noun} in this file is not as it should be: ${issue!.path.join('.')}: ${issue!.message}.`
      });
    }
  };
}
