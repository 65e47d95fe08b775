/** Namespaces of TTML and its profiles. */
export const TT = 'http://www.w3.org/ns/ttml';
export const TTS = `${TT}#styling`;
export const TTP = `${TT}#parameter`;
export const TTM = `${TT}#metadata`;
export const EBUTTM = 'urn:ebu:tt:metadata';
export const XML = 'http://www.w3.org/XML/1998/namespace';
/** What the first drafts were published under: files still have them. */
export const OLD_TT = /^http:\/\/www\.w3\.org\/200[46]\/(?:04|10)\/ttaf1/;
