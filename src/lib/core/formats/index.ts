/** Captions files, read and written, and transcripts. `registry.ts` lists every format there is. */
export type { FileCue, FileLine, ParsedCaptions, ParseProblem } from './caption-file';
export { decodeText, ENCODINGS, findEncoding, type Encoding } from './encoding';
export { exportFileName, languageOfFileName, ownTrackName, type TitledRecording } from './file-name';
export { startParagraphs, trackFromFile, type ImportOptions } from './import';
export { formatCsv, parseCsv } from './csv';
export { formatJson, parseJson } from './json';
export {
  encodeText,
  exported,
  exportOptionsSchema,
  formatOptions,
  frameRateOf,
  parseOptions,
  usualOptions,
  FRAME_RATES,
  USUAL_OPTIONS,
  type ExportOptions,
  type OptionName,
  type WriteOptions
} from './options';
export { findFormat, FORMATS, formatOfBytes, formatOfFile, type Format, type FormatId } from './registry';
export { formatEdl, formatEvents, MOST_EVENTS, reelOf, type Channels, type EditEvent } from './edl';
export { formatOtio, otio } from './otio';
export { pictureCount, type PictureCount } from './pictures';
export { formatScc, parseScc } from './scc';
export { formatSrt, formatSrtCues, parseSrt, srtCues, type SrtCue } from './srt';
export { cueSettings, formatWebVtt, parseWebVtt, placementFromSettings, placementSettings } from './webvtt';
export {
  formatTranscriptHtml,
  formatTranscriptText,
  transcriptOf,
  transcriptPaper,
  type TranscriptOptions,
  type TranscriptParagraph
} from './transcript';
export { remarksOn, type Remark } from './remarks';
export { formatStl, parseStl } from './stl';
export { formatTtml, parseTtml } from './ttml';
