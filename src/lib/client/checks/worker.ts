/** A web worker that checks the track after each change of it, and tries what would mend a finding. */
import { applyChanges } from '$lib/core/changes';
import { Checker, mend, type Knowledge } from '$lib/core/checks';
import type { Track } from '$lib/core/track';
import { askedSchema, type Answer } from './messages';

const checker = new Checker();
let track: Track | null = null;
let knowledge: Knowledge | null = null;

const tell = (answer: Answer): void => postMessage(answer);

addEventListener('message', ({ data }) => {
  const asked = askedSchema.parse(data);
  switch (asked.type) {
    case 'track':
      track = asked.track;
      return;
    case 'know':
      ({ knowledge } = asked);
      return;
    case 'changes': {
      const applied = applyChanges(track!, asked.changes);
      if (!applied.ok) throw new Error(applied.problem.message);
      track = applied.value.document;
      return;
    }
    case 'check': {
      return tell({ type: 'report', id: asked.id, ...checker.check(track!, knowledge!, track!.sheet) });
    }
    case 'mend': {
      const { findings } = checker.check(track!, knowledge!, track!.sheet);
      const wanted = new Set(asked.keys);
      const chosen = findings.filter(({ key }) => wanted.has(key));
      const setting = {
        ...{ knowledge: knowledge!, sheet: track!.sheet, mint: () => crypto.randomUUID(), atMs: asked.atMs }
      };
      const { id } = asked;
      const { commands, keys } = mend(track!, chosen, setting, (progress) => tell({ type: 'mending', id, progress }));
      return tell({ type: 'mended', id, commands, keys });
    }
  }
});
