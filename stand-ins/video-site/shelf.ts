/** The videos of the site and their captions, written down at each change: nothing is forgotten with the process. */
import { execFileSync } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { extname, join } from 'node:path';
import { z } from 'zod';
import {
  siteCaptionSchema,
  type CaptionChange,
  type SiteCaption,
  type SiteVideo
} from '$lib/server/sites/simulated/protocol';
import { Refusal } from '../http';
import { asWebVtt, CHANNEL, readName, reasonsAgainst } from './examine';

const entrySchema = siteCaptionSchema
  .unwrap()
  .extend({ videoId: z.string(), key: z.string(), format: z.enum(['srt', 'vtt']) });
type Entry = z.infer<typeof entrySchema>;
const bookSchema = z.object({ captions: z.array(entrySchema) });

interface Video {
  readonly id: string;
  readonly title: string;
  readonly path: string;
  readonly durationMs: number;
}

const PLAYED = ['.mp4', '.webm', '.m4v'];

export class Shelf {
  readonly #folder: string;
  readonly #videos: readonly Video[];
  #captions: Entry[];

  /** `media`: a folder of videos. `automatic`: what the site hears by itself, a file for a video of the same stem. */
  constructor(folder: string, media: string, automatic: string) {
    this.#folder = folder;
    mkdirSync(join(folder, 'files'), { recursive: true });
    this.#videos = readdirSync(media)
      .filter((name) => PLAYED.includes(extname(name)))
      .map((name) => videoOf(join(media, name)));
    const book = join(folder, 'book.json');
    this.#captions = existsSync(book) ? bookSchema.parse(JSON.parse(readFileSync(book, 'utf8'))).captions : [];
    for (const { id, path } of this.#videos) {
      const stem = id;
      const heard = [join(automatic, `${stem}.vtt`), path.replace(/\.[^.]+$/, '.vtt')].find((file) => existsSync(file));
      if (heard !== undefined && !this.#captions.some((one) => one.videoId === id && isAutomatic(one)))
        this.#add(id, readFileSync(heard), {
          ...{ language: 'en', kind: 'captions', format: 'vtt', state: 'automatic', key: `automatic ${id}` },
          ...{ name: 'English (automatic)', file: `${stem}.en.captions.vtt` }
        });
    }
    // What was being looked at when the process ended is looked at now.
    for (const { id, state } of this.#captions) if (state === 'processing') this.examine(id);
    this.#write();
  }

  list(): readonly SiteVideo[] {
    return this.#videos.map(({ id, title, durationMs }) => ({
      ...{ id, title, durationMs },
      captions: this.#captions.filter(({ videoId }) => videoId === id).map(told)
    }));
  }
  video(id: string): SiteVideo {
    const video = this.list().find((one) => one.id === id);
    if (video === undefined) throw new Refusal(404, 'unknown_video', 'There is no such video.');
    return video;
  }
  mediaPath(id: string): string {
    this.video(id);
    return this.#videos.find((one) => one.id === id)!.path;
  }

  /** The same key is the same caption, however often it is sent. */
  take(
    videoId: string,
    bytes: Uint8Array,
    said: { readonly file: string; readonly name: string; readonly key: string }
  ): SiteCaption {
    this.video(videoId);
    const { file, name, key } = said;
    const known = this.#captions.find((one) => one.videoId === videoId && one.key === key);
    if (known !== undefined && known.state !== 'refused') return told(known);
    const named = readName(file);
    if (typeof named === 'string') throw new Refusal(422, 'bad_name', named);
    if (name.trim() === '' || name.length > CHANNEL.mostNameLength)
      throw new Refusal(422, 'bad_name', `A name in the menu has 1 to ${CHANNEL.mostNameLength} letters.`);
    if (bytes.length > CHANNEL.mostBytes)
      throw new Refusal(
        413,
        'too_large',
        `A caption file has ${CHANNEL.mostBytes} bytes at most; this has ${bytes.length}.`
      );
    const twin = this.#captions.find(
      (one) =>
        one.videoId === videoId && one.state === 'published' && one.language === named.language && one.name === name
    );
    if (twin !== undefined && hashOf(this.#read(twin.id)) === hashOf(bytes))
      throw new Refusal(409, 'duplicate', `“${name}” is published with these very captions already.`);
    this.#captions = this.#captions.filter((one) => one !== known);
    const entry = this.#add(videoId, bytes, { ...named, ...{ file, name, key, state: 'processing' } });
    this.#write();
    return told(entry);
  }

  /** Looks into a file; what speaks against it stands with it. */
  examine(id: string): void {
    const entry = this.#captions.find((one) => one.id === id);
    if (entry?.state !== 'processing') return;
    const reasons = reasonsAgainst(this.#read(id), this.video(entry.videoId).durationMs);
    Object.assign(entry, { state: reasons.length === 0 ? 'draft' : 'refused', reasons: [...reasons] });
    this.#write();
  }

  change(videoId: string, id: string, { state, isDefault }: CaptionChange): SiteCaption {
    const entry = this.#get(videoId, id);
    const isShown = entry.state === 'published' || entry.state === 'automatic';
    if (isAutomatic(entry) && state !== undefined) {
      entry.state = state === 'published' ? 'automatic' : 'replaced';
    } else if (state !== undefined) {
      if (entry.state !== 'draft' && entry.state !== 'published')
        throw new Refusal(409, 'not_yet', `“${entry.name}” is ${entry.state}: it cannot be published.`);
      entry.state = state;
      this.#settleAutomatic(videoId, entry.language);
    }
    if (isDefault === true && !isShown && state !== 'published')
      throw new Refusal(409, 'not_shown', `“${entry.name}” is not shown to viewers: publish it first.`);
    if (isDefault !== undefined) {
      for (const one of this.#captions) if (one.videoId === videoId) one.isDefault = false;
      entry.isDefault = isDefault;
    }
    if (entry.state !== 'published' && entry.state !== 'automatic') entry.isDefault = false;
    this.#write();
    return told(entry);
  }

  remove(videoId: string, id: string): void {
    const entry = this.#get(videoId, id);
    if (isAutomatic(entry)) throw new Refusal(409, 'automatic', 'An automatic track can be taken down, not deleted.');
    this.#captions = this.#captions.filter((one) => one !== entry);
    this.#settleAutomatic(videoId, entry.language);
    this.#write();
  }

  /** As viewers get it. */
  shown(videoId: string, id: string): string {
    const entry = this.#get(videoId, id);
    if (entry.state !== 'published' && entry.state !== 'automatic')
      throw new Refusal(404, 'unknown_caption', 'These captions are not shown.');
    return asWebVtt(new TextDecoder().decode(this.#read(id)), entry.format);
  }

  /** What is published stands in the place of what the site heard in that language; without it that is there again. */
  #settleAutomatic(videoId: string, language: string): void {
    const isSame = (one: Entry): boolean => one.videoId === videoId && primary(one.language) === primary(language);
    const isReplaced = this.#captions.some((one) => isSame(one) && one.state === 'published');
    for (const one of this.#captions)
      if (isSame(one) && isAutomatic(one)) one.state = isReplaced ? 'replaced' : 'automatic';
  }

  #get(videoId: string, id: string): Entry {
    const entry = this.#captions.find((one) => one.videoId === videoId && one.id === id);
    if (entry === undefined) throw new Refusal(404, 'unknown_caption', 'There are no such captions.');
    return entry;
  }
  #add(
    videoId: string,
    bytes: Uint8Array,
    said: Omit<Entry, 'id' | 'videoId' | 'bytes' | 'reasons' | 'isDefault'>
  ): Entry {
    const entry: Entry = { ...said, id: randomUUID(), videoId, bytes: bytes.length, reasons: [], isDefault: false };
    writeFileSync(join(this.#folder, 'files', entry.id), bytes);
    this.#captions = [...this.#captions, entry];
    return entry;
  }
  #read(id: string): Uint8Array {
    return readFileSync(join(this.#folder, 'files', id));
  }
  #write(): void {
    const path = join(this.#folder, 'book.json');
    writeFileSync(`${path}.new`, JSON.stringify({ captions: this.#captions }));
    renameSync(`${path}.new`, path);
  }
}

const isAutomatic = ({ state }: Entry): boolean => state === 'automatic' || state === 'replaced';
const primary = (tag: string): string => tag.split('-')[0]!;
const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

function told({ videoId: _, key: __, format: ___, ...caption }: Entry): SiteCaption {
  return { ...caption };
}

function videoOf(path: string): Video {
  const id = path.replace(/^.*\//, '').replace(/\.[^.]+$/, '');
  const seconds = execFileSync('ffprobe', [
    '-v',
    'error',
    '-show_entries',
    'format=duration',
    '-of',
    'csv=p=0',
    `file:${path}`
  ]);
  const title = id.replaceAll('-', ' ').replace(/^./, (letter) => letter.toUpperCase());
  return { id, title, path, durationMs: Math.round(Number(seconds.toString()) * 1000) };
}
