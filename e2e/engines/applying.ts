/** What the browser's engine makes of changes: bundled by itself, so that a page can be asked. */
import { applyChanges } from '../../src/lib/core/changes';
import { trackChangesSchema, trackSchema } from '../../src/lib/core/track';

/** The bytes of a track after each list of changes in turn. */
export function apply(track: string, entries: readonly string[]): string[] {
  let now = trackSchema.parse(JSON.parse(track));
  return entries.map((changes) => {
    const done = applyChanges(now, trackChangesSchema.parse(JSON.parse(changes)));
    if (!done.ok) throw new Error(done.problem.message);
    now = done.value.document;
    return JSON.stringify(now);
  });
}
