/**
 * The data folder: whether it is ours, and who has it. What is in it that we did not make is never deleted, and where
 * database and media do not belong together that is a question to whoever runs the server.
 */
import { randomUUID } from 'node:crypto';
import {
  appendFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync
} from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { DATABASE, openDatabase, type Db } from './database';
import { NarrationStore } from './narrations';

/** Says in one sentence why a folder is not taken as data folder, and what to do. */
export class FolderRefusal extends Error {}

/** Says that this folder is ours, and with which database. */
const MARKER = 'vine-tap.json';
const markerSchema = z.object({ folder: z.uuid() });
const MEDIA = 'recordings';
const UPLOADS = 'uploads';
/** Uploads that broke off and may go on. */
export const RESUMABLE = 'resumable';
/** What is being spoken. */
export const NARRATIONS = 'narrations';
const ASIDE = 'set-aside';
/** In a recording's folder while the database does not know it yet, or no more. */
export const ARRIVING = 'arriving';
/** Uploads on their way, named by an id, and what engines are given. */
const OWN_SCRATCH = /^([\da-f-]{36}|expect-\w+)$/;

const entriesOf = (path: string): string[] => (existsSync(path) ? readdirSync(path) : []);

/** Opens the database of a folder for this process alone. Throws `FolderInUse` and `FolderRefused`. */
export function openFolder(folder: string): Db {
  mkdirSync(folder, { recursive: true });
  const marker = readMarker(folder);
  if (!existsSync(join(folder, DATABASE))) refuseStrangers(folder, marker !== null);
  const db = openDatabase(folder);
  try {
    const known = z.string().optional().parse(db.prepare('SELECT id FROM folder').pluck().get());
    if (known !== undefined && marker !== null && known !== marker)
      throw new FolderRefusal(
        `The database in ${folder} belongs to another folder: put back the one that was here, or the media that it came with.`
      );
    const id = known ?? marker ?? randomUUID();
    if (known === undefined) db.prepare('INSERT INTO folder (id) VALUES (?)').run(id);
    if (marker === null) writeFileSync(join(folder, MARKER), `${JSON.stringify({ folder: id })}\n`);
    sweep(folder, db, { wasMarked: marker !== null });
    return db;
  } catch (error) {
    db.close();
    throw error;
  }
}

function readMarker(folder: string): string | null {
  const path = join(folder, MARKER);
  if (!existsSync(path)) return null;
  try {
    return markerSchema.parse(JSON.parse(readFileSync(path, 'utf8'))).folder;
  } catch (cause) {
    throw new FolderRefusal(
      `${path} cannot be read; put it back as it was, or choose another folder by VINETAP_DATA.`,
      {
        cause
      }
    );
  }
}

function refuseStrangers(folder: string, isMarked: boolean): void {
  const held = [MEDIA, UPLOADS, RESUMABLE, NARRATIONS].filter((name) => entriesOf(join(folder, name)).length > 0);
  if (held.length === 0) return;
  throw new FolderRefusal(
    isMarked
      ? `The database of ${folder} is gone, and media lies there still: put ${DATABASE} back, or move the folder ${held.join(' and ')} elsewhere to begin anew.`
      : `${folder} holds ${held.map((name) => `a folder ${name}`).join(' and ')} that Vine Tap did not make: choose another folder by VINETAP_DATA.`
  );
}

/** Clears up after a former server: uploads that never ended go; what is unknown is moved aside, or asked about. */
function sweep(folder: string, db: Db, { wasMarked }: { readonly wasMarked: boolean }): void {
  const known = new Set(z.array(z.string()).parse(db.prepare('SELECT id FROM recordings').pluck().all()));
  const unknown = entriesOf(join(folder, MEDIA)).filter((id) => !known.has(id));
  const whole = unknown.filter((id) => !existsSync(join(folder, MEDIA, id, ARRIVING)));
  const mayAsk = process.env.VINETAP_UNKNOWN_MEDIA !== 'aside' && (wasMarked || known.size === 0);
  if (whole.length > 0 && mayAsk)
    throw new FolderRefusal(
      `The database in ${folder} does not know ${whole.length} of the folders in ${MEDIA} (${whole.slice(0, 3).join(', ')}${whole.length > 3 ? ', …' : ''}): it is empty, or older than they are. Put the right one back; or set VINETAP_UNKNOWN_MEDIA=aside to have them moved to ${ASIDE} and go on without them.`
    );
  for (const id of unknown) setAside(folder, MEDIA, id);
  if (!wasMarked) return;
  for (const name of entriesOf(join(folder, UPLOADS))) {
    if (OWN_SCRATCH.test(name)) rmSync(join(folder, UPLOADS, name), { recursive: true, force: true });
    else setAside(folder, UPLOADS, name);
  }
  const narrations = new NarrationStore(db);
  const spoken = new Set(narrations.list().map(({ id }) => id));
  for (const name of entriesOf(join(folder, NARRATIONS))) if (!spoken.has(name)) setAside(folder, NARRATIONS, name);
  // One without a file has become a recording.
  for (const id of spoken) if (!existsSync(join(folder, NARRATIONS, id))) narrations.remove(id);
  for (const id of known)
    for (const name of entriesOf(join(folder, MEDIA, id)))
      if (name === ARRIVING || name.endsWith('.part')) rmSync(join(folder, MEDIA, id, name), { force: true });
}

function setAside(folder: string, from: string, name: string): void {
  const aside = join(folder, ASIDE);
  mkdirSync(aside, { recursive: true });
  const as = `${name}-${randomUUID().slice(0, 8)}`;
  renameSync(join(folder, from, name), join(aside, as));
  const note = `${new Date().toISOString()} ${from}/${name} is not known to the database; it was moved here as ${as}.\n`;
  appendFileSync(join(aside, 'note.txt'), note);
  console.warn(note.trim());
}
