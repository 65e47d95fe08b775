/** What the page of ears says. */
import { plural } from '$lib/core/plural';

export const phrases = {
  page: 'Ears',
  about: 'speech models of your own',
  list: {
    title: 'Your models',
    none: 'There is none yet. Put the files of a model into a folder of their own, here:',
    folder: 'They lie in folders of their own, in',
    lookAgain: 'Look again',
    ready: (loadMs: number) => `ready, loads in ${(loadMs / 1000).toFixed(1)} s`,
    trying: 'being tried out…',
    unusable: 'cannot be used',
    any: 'any language: say which ones it hears',
    bytes: (bytes: number) =>
      `${(bytes / 1e6).toLocaleString('en-GB', { maximumFractionDigits: bytes < 1e7 ? 1 : 0 })} MB`,
    writes: { 'bare words': 'words without marks', text: 'sentences with marks' },
    times: { yes: 'its own times', no: 'times are reckoned' },
    confidence: 'tells what it is unsure of',
    count: (count: number) => plural(count, 'model')
  },
  form: {
    change: 'Name and languages…',
    changeOf: (name: string) => `Name and languages of ${name}`,
    name: 'Name',
    languages: 'Languages',
    languagesAbout: 'Codes such as en, de-AT, ja, with commas between; empty: those that the model tells.',
    note: 'To be known of it',
    save: 'Save',
    cancel: 'Cancel'
  },
  help: {
    title: 'What a folder holds',
    about:
      'A speech model that others have made, as ONNX files for 16 kHz, with the list of its pieces. Nothing of the sound leaves this machine. Whether a model may be used for your work its licence says.',
    kinds: [
      ['One file', 'a file that ends in .onnx, and tokens.txt'],
      ['Three files', 'encoder, decoder and joiner, and tokens.txt: knows what it is unsure of'],
      ['Two files', 'encoder and decoder, and tokens.txt: often many languages, no times of its own'],
      ['Four files', 'preprocess, encode, uncached_decode and cached_decode, and tokens.txt']
    ],
    precision: 'Of files in two precisions the smaller one (.int8.onnx) is taken.',
    tried: 'Each is loaded once in a process of its own, so that one that breaks breaks nothing else.',
    hear: 'What is ready is among the ears of Hear, for the languages that it hears.'
  }
};
