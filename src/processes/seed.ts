/**
 * Brings the demo into a new data folder: its media through the same door as any upload, and the tracks that were
 * heard and edited, draft and log, as they were.
 */
import { createReadStream } from 'node:fs';
import { cp, readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { z } from 'zod';
import { readTerms } from '$lib/core/expecting';
import { openCommands, openTrack } from '$lib/core/stored';
import { messageOf } from '$lib/core/message-of';
import { openApp } from '$lib/server/app';
import { modelsFolder } from '$lib/server/config';

const scriptsSchema = z.record(
  z.string(),
  z.object({ title: z.string(), file: z.string(), vocabulary: z.array(z.string()).default([]) })
);
const seedSchema = z.object({
  form: z.int(),
  draft: z.unknown(),
  entries: z.array(z.object({ edits: z.unknown() }))
});

async function main(demoFolder: string): Promise<void> {
  // A toy, so that a model of one's own can be seen at work.
  await cp(join(demoFolder, 'models'), modelsFolder(), { recursive: true, force: false });
  const app = openApp();
  const scripts = scriptsSchema.parse(JSON.parse(await readFile(join(demoFolder, 'scripts.json'), 'utf8')));
  const tracks = await readdir(join(demoFolder, 'tracks'));
  for (const [name, { title, file, vocabulary }] of Object.entries(scripts)) {
    const path = join(demoFolder, 'media', file);
    const body = Readable.toWeb(createReadStream(path)) as ReadableStream<Uint8Array>;
    const { recording, job } = await app.takeUpload({
      fileName: file,
      body,
      announcedBytes: (await stat(path)).size,
      cutOf: null
    });
    app.recordings.setTitle(recording.id, title);
    app.vocabulary.replace(recording.id, readTerms(vocabulary.join('\n')).terms);
    const ended = await app.jobs.ended(job.id);
    if (ended.state !== 'done') throw new Error(`${file}: ${ended.error ?? ended.state}`);
    // A track comes before those that translate it.
    const own = tracks.filter((track) => track.startsWith(`${name}.`)).sort((a, b) => a.length - b.length);
    const nowMs = Date.now();
    for (const [at, track] of own.entries()) {
      const { form, draft, entries } = seedSchema.parse(
        JSON.parse(await readFile(join(demoFolder, 'tracks', track), 'utf8'))
      );
      const opened = { ...openTrack(form, draft), recordingId: recording.id };
      app.tracks.insert(opened, nowMs + at);
      for (const { edits } of entries) app.tracks.applyOwn(opened.id, () => openCommands(form, edits));
    }
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
