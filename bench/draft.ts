/** Rows of what is made of the words: a script fitted, marks and capitals, speakers; on speech whose truth the synthesiser tells. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { matchWords } from '../src/lib/core/fitting';
import { bareWord } from '../src/lib/core/wording';
import { ask, jobEnd, newFolder, send, startServer, upload, type Server } from '../tests/server/harness';
import { median } from './figures';
import type { Row } from './table';

/** Nothing was tuned on these. */
const TALK = [
  'The harbor master keeps a book of every boat that came in since the great storm.',
  'When the fog is thick, he rings a bell by hand, and the fishermen steer by the sound.',
  'Nobody pays him for it, but they bring him bread and smoked fish on Sunday.',
  'How do you know which boat is coming?',
  'He says that every engine has a voice, and that he has never been wrong.',
  'In the winter the harbor freezes, so the boats stay on the shore until March.',
  'The oldest one was built by his father, who sailed her to Iceland and back.',
  'Would you let a stranger take the wheel?',
  'If the wind turns, the small boats go behind the island and wait.',
  'Every evening the lamp is lit, and the whole town can see it.'
];

interface Spoken {
  readonly text: string;
  readonly startMs: number;
  readonly endMs: number;
  readonly voice: string;
}

const flite = (voice: string, ...args: string[]): string =>
  execFileSync('flite', ['-voice', voice, ...args], { encoding: 'utf8' });

/** Sentences spoken one after the other, each word with the synthesiser's own times. */
function speak(sentences: readonly (readonly [voice: string, text: string])[]): { wav: Buffer; words: Spoken[] } {
  const folder = newFolder();
  const words: Spoken[] = [];
  let nowMs = 0;
  const paths = sentences.map(([voice, text], at) => {
    const raw = join(folder, `${at}-raw.wav`);
    const path = join(folder, `${at}.wav`);
    const phones = flite(voice, '-psdur', '-t', text, '-o', raw)
      .trim()
      .split(/\s+/)
      .map((pair) => ({ phone: pair.split(':')[0]!, endMs: Number(pair.split(':')[1]) * 1000 }));
    execFileSync('sox', [raw, '-r', '16000', '-c', '1', path, 'pad', '0', '0.25']);
    let next = 0;
    for (const word of text.split(' ')) {
      const count = flite(voice, '-ps', '-t', word, '-o', 'none')
        .trim()
        .split(/\s+/)
        .filter((phone) => phone !== 'pau').length;
      while (phones[next]?.phone === 'pau') next++;
      const startMs = nowMs + (phones[next - 1]?.endMs ?? 0);
      next += count;
      words.push({ text: word, voice, startMs, endMs: nowMs + (phones[next - 1]?.endMs ?? 0) });
    }
    nowMs += Number(execFileSync('soxi', ['-D', path], { encoding: 'utf8' })) * 1000;
    return path;
  });
  const whole = join(folder, 'talk.wav');
  execFileSync('sox', [...paths, whole]);
  return { wav: readFileSync(whole), words };
}

type WordAnswer = Spoken & { readonly speakerId?: string };
async function hear(server: Server, id: string, more: object): Promise<WordAnswer[]> {
  const asked = await send(server, `/api/recordings/${id}/transcriptions`, { language: 'en', figures: false, ...more });
  const job = await jobEnd(server, asked.body.job.id);
  return (await ask(server, `/api/tracks/${job.result.trackId}`)).body.track.words;
}

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

/** Precision and recall of something that a word has or has not, over words that were heard right. */
function agreement(
  what: string,
  pairs: readonly (readonly [wanted: Spoken, had: Spoken])[],
  has: (text: string, before: string) => boolean,
  before: (word: Spoken) => string
): Row[] {
  const both = pairs.filter(([wanted, had]) => has(wanted.text, before(wanted)) && has(had.text, before(had))).length;
  const wanted = pairs.filter(([word]) => has(word.text, before(word))).length;
  const had = pairs.filter(([, word]) => has(word.text, before(word))).length;
  return [
    { what: `${what}: precision`, value: (both / had) * 100, unit: `% of ${had}` },
    { what: `${what}: recall`, value: (both / wanted) * 100, unit: `% of ${wanted}` }
  ];
}

export async function draftRows(): Promise<Row[]> {
  const rows: Row[] = [];
  // Spoken before the server starts: a connection that waits for the synthesiser is closed.
  const talks = ['slt', 'rms', 'awb'].map((voice) => ({ voice, ...speak(TALK.map((text) => [voice, text])) }));
  const dialogues = (
    [
      ['slt', 'rms'],
      ['awb', 'rms']
    ] as const
  ).map(([one, other]) => ({ one, other, ...speak(TALK.map((text, at) => [at % 3 === 1 ? other : one, text])) }));
  const server = await startServer();
  const all: (readonly [Spoken, Spoken])[] = [];
  const before = new Map<Spoken, string>();
  for (const { voice, wav, words } of talks) {
    const { body } = await upload(server, `${voice}.wav`, wav);
    const id = body.recording.id as string;
    await ask(server, `/api/recordings/${id}/speech`);
    const heard = await hear(server, id, {});
    const fitted = await hear(server, id, { script: TALK.join(' ') });
    const pairs = matchWords(
      words.map((word) => bareWord(word.text)),
      heard.map((word) => bareWord(word.text))
    )
      .filter((match) => match.isExact)
      .map((match) => [words[match.script]!, heard[match.heard]!] as const);
    const off = pairs.map(([wanted, had]) => Math.abs(wanted.startMs - had.startMs));
    const fitOff = fitted.map((word, at) => Math.abs(word.startMs - words[at]!.startMs));
    rows.push(
      { what: `${voice}: words heard right`, value: (pairs.length / words.length) * 100, unit: '%' },
      { what: `${voice}: start of a heard word off by, mean`, value: mean(off), unit: 'ms' },
      { what: `${voice}: start of a heard word off by, median`, value: median(off), unit: 'ms' },
      { what: `${voice}: start of a fitted word off by, mean`, value: mean(fitOff), unit: 'ms', budget: 30 },
      {
        what: `${voice}: fitted words over 100 ms off`,
        value: (fitOff.filter((ms) => ms > 100).length / fitOff.length) * 100,
        unit: '%',
        budget: 5
      }
    );
    all.push(...pairs);
    for (const list of [words, heard]) list.forEach((word, at) => before.set(word, list[at - 1]?.text ?? '.'));
  }
  const textBefore = (word: Spoken): string => before.get(word)!;
  rows.push(
    ...agreement('ends of sentences', all, (text) => /[.?]$/.test(text), textBefore),
    ...agreement('question marks', all, (text) => text.endsWith('?'), textBefore),
    ...agreement('commas', all, (text) => text.endsWith(','), textBefore),
    ...agreement('sentence capitals', all, (text, last) => /^\p{Lu}/u.test(text) && /[.?]$/.test(last), textBefore),
    ...agreement(
      'capitals of names',
      all,
      (text, last) => /^\p{Lu}\p{Ll}/u.test(text) && !/[.?]$/.test(last),
      textBefore
    )
  );
  for (const { one, other, wav, words } of dialogues) {
    const { body } = await upload(server, `${one}-${other}.wav`, wav);
    for (const speakers of [2, 'auto'] as const) {
      const told = await hear(server, body.recording.id, { speakers });
      const [first] = told.map((word) => word.speakerId);
      const right = told.filter((word) => {
        const middleMs = (word.startMs + word.endMs) / 2;
        const spoken = words.findLast((truth) => truth.startMs <= middleMs) ?? words[0]!;
        return (word.speakerId === first) === (spoken.voice === one);
      });
      const ms = (list: readonly WordAnswer[]): number =>
        list.reduce((sum, word) => sum + word.endMs - word.startMs, 0);
      rows.push({
        what: `${one} and ${other}, number ${speakers === 2 ? 'given' : 'found out'}: speech given to the right one`,
        value: (ms(right) / ms(told)) * 100,
        unit: '%'
      });
    }
  }
  await server.stop();
  return rows;
}
