/** Where Debian's package pocketsphinx-en-us puts the US English model. */
const MODEL = '/usr/share/pocketsphinx/model/en-us';
export const ACOUSTIC_MODEL = `${MODEL}/en-us`;
export const LANGUAGE_MODEL = `${MODEL}/en-us.lm.bin`;
export const DICTIONARY = `${MODEL}/cmudict-en-us.dict`;
