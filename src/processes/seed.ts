/**
 * Brings the demo into a new data folder: its media through the same door as any upload, and the tracks that were
 * heard and edited, draft and log, as they were.
 */
import { createReadStream } from 'node:fs';
import { readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { z } from 'zod';
import { applyEdits, editSchema } from '$lib/core/edits';
import { readTerms } from '$lib/core/expecting';
import { trackSchema } from '$lib/core/track';
import { messageOf } from '$lib/core/message-of';
import { openApp } from '$lib/server/app';

const scriptsSchema = z.record(
  z.string(),
  z.object({ title: z.string(), file: z.string(), vocabulary: z.array(z.string()).default([]) })
);
const seedSchema = z.object({
  draft: trackSchema,
  entries: z.array(z.object({ label: z.string(), edits: z.array(editSchema) }))
});

async function main(demoFolder: string): Promise<void> {
  const app = await openApp();
  const scripts = scriptsSchema.parse(JSON.parse(await readFile(join(demoFolder, 'scripts.json'), 'utf8')));
  const tracks = new Set(await readdir(join(demoFolder, 'tracks')));
  for (const [name, { title, file, vocabulary }] of Object.entries(scripts)) {
    const path = join(demoFolder, 'media', file);
    const body = Readable.toWeb(createReadStream(path)) as ReadableStream<Uint8Array>;
    const { recording, job } = await app.takeUpload(file, body, {
      announcedBytes: (await stat(path)).size,
      cutOf: null
    });
    app.recordings.setTitle(recording.id, title);
    app.vocabulary.replace(recording.id, readTerms(vocabulary.join('\n')).terms);
    const ended = await app.jobs.ended(job.id);
    if (ended.state !== 'done') throw new Error(`${file}: ${ended.error ?? ended.state}`);
    if (!tracks.has(`${name}.json`)) continue;
    const seed = seedSchema.parse(JSON.parse(await readFile(join(demoFolder, 'tracks', `${name}.json`), 'utf8')));
    let track = { ...seed.draft, recordingId: recording.id };
    app.trackStore.insert(track, Date.now());
    seed.entries.forEach(({ label, edits }, at) => {
      const applied = applyEdits(track, edits);
      if (!applied.ok) throw new Error(`${name}, edit ${at + 1}: ${applied.problem.message}`);
      track = applied.value.track;
      const inverses = [...applied.value.inverses];
      app.trackStore.append(track, {
        revision: at + 1,
        kind: 'edit',
        targetRevision: null,
        batchId: null,
        label,
        edits,
        inverses,
        madeAtMs: Date.now()
      });
    });
  }
  app.close();
}

main(process.argv[2] ?? 'demo').then(
  () => process.exit(0),
  (error: unknown) => {
    console.error(messageOf(error));
    process.exit(1);
  }
);
