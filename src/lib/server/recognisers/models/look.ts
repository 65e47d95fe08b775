/** Looks at the folder of a speech model without loading it: what it holds, and whether that is one. */
import { lstat, open, readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  planModel,
  readEarSettings,
  readOnnx,
  readTokens,
  SETTINGS_FILE,
  type EarSettings,
  type FolderFacts,
  type ModelPlan,
  type OnnxFacts,
  type TokenFacts
} from '$lib/core/ears';
import { fail, type Result } from '$lib/core/result';

export interface LookedAt {
  readonly settings: EarSettings;
  readonly sizeBytes: number;
  /** How it is loaded, or what is wrong with it. */
  readonly plan: Result<ModelPlan, string>;
}

const TOKENS = 'tokens.txt';
/** A hundred thousand pieces have less. */
const MOST_TEXT_BYTES = 20_000_000;

/** Names, sizes and times of what a folder holds: another one where anything in it has changed. */
export async function fingerprintOf(folder: string): Promise<string> {
  const entries = await Promise.all(
    (await readdir(folder)).sort().map(async (name) => {
      const { size, mtimeMs } = await lstat(join(folder, name));
      return [name, size, mtimeMs];
    })
  );
  return JSON.stringify(entries);
}

export async function lookAt(folder: string): Promise<LookedAt> {
  const entries = await readdir(folder, { withFileTypes: true });
  const files = entries.filter((entry) => entry.isFile()).map(({ name }) => name);
  const sizes = await Promise.all(files.map(async (name) => (await lstat(join(folder, name))).size));
  const sizeBytes = sizes.reduce((sum, size) => sum + size, 0);
  const own = files.includes(SETTINGS_FILE) ? readEarSettings(await readText(join(folder, SETTINGS_FILE))) : null;
  const about = { settings: own?.ok === true ? own.value : {}, sizeBytes };
  if (own?.ok === false) return { ...about, plan: own };
  const link = entries.find((entry) => entry.isSymbolicLink());
  if (link !== undefined)
    return { ...about, plan: fail(`“${link.name}” is a link to elsewhere: put the file itself into the folder.`) };
  const graphs = new Map<string, OnnxFacts>();
  for (const name of files.filter((one) => one.endsWith('.onnx'))) {
    const read = await readGraph(join(folder, name));
    if (!read.ok) return { ...about, plan: fail(`“${name}”: ${read.problem}`) };
    graphs.set(name, read.value);
  }
  const facts: FolderFacts = {
    files,
    graphs,
    tokens: files.includes(TOKENS) ? await tokensOf(join(folder, TOKENS)) : null
  };
  return { ...about, plan: planModel(facts) };
}

async function readGraph(path: string): Promise<Result<OnnxFacts, string>> {
  const file = await open(path, 'r');
  try {
    return await readOnnx({
      sizeBytes: (await file.stat()).size,
      read: async (fromByte, length) => {
        const bytes = new Uint8Array(length);
        const { bytesRead } = await file.read(bytes, 0, length, fromByte);
        return bytes.subarray(0, bytesRead);
      }
    });
  } finally {
    await file.close();
  }
}

async function tokensOf(path: string): Promise<TokenFacts | 'unreadable'> {
  if ((await lstat(path)).size > MOST_TEXT_BYTES) return 'unreadable';
  return readTokens(await readText(path));
}

const readText = (path: string): Promise<string> => readFile(path, 'utf8');
