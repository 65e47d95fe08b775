/** Captions files, read and written, and transcripts. `registry.ts` lists every format there is. */
export type { FileCue, FileLine, ParsedCaptions, ParseProblem } from './caption-file';
export { decodeText, ENCODINGS, findEncoding, type Encoding } from './encoding';
export { exportFileName, languageOfFileName, ownTrackName, type TitledRecording } from './file-name';
export { startParagraphs, trackFromFile, type ImportOptions } from './import';
export { findFormat, FORMATS, formatOfFile, type Format, type FormatId, type FormatOption } from './registry';
export { formatSrt, parseSrt } from './srt';
export { cueSettings, formatWebVtt, parseWebVtt, placementFromSettings, placementSettings } from './webvtt';
export {
  formatTranscriptHtml,
  formatTranscriptText,
  transcriptOf,
  type TranscriptOptions,
  type TranscriptParagraph
} from './transcript';
export { remarksOn, type Remark } from './remarks';
