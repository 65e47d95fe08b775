/** The phrases of the place where files are handed over. */
import { plural } from '$lib/core/plural';

const sizeOf = (bytes: number): string =>
  bytes < 1_000_000
    ? `${Math.max(1, Math.round(bytes / 1000))} kB`
    : bytes < 1_000_000_000
      ? `${(bytes / 1_000_000).toFixed(bytes < 10_000_000 ? 1 : 0)} MB`
      : `${(bytes / 1_000_000_000).toFixed(1)} GB`;

export const phrases = {
  tabs: { label: 'What is handed over', files: 'Caption files', video: 'Video' },
  video: {
    intro: 'A video with the captions in its picture, drawn exactly as in Dress.',
    introSound: 'There is no picture in this recording: a plain background takes its place.',
    captions: 'Captions',
    captionKinds: { burned: 'Burnt in', none: 'None' },
    format: 'Format',
    formats: {
      'mp4 h264': 'MP4, H.264: plays everywhere',
      'mp4 h265': 'MP4, H.265: smaller, newer players',
      'webm vp9': 'WebM, VP9: for the web',
      'webm av1': 'WebM, AV1: smallest, slow to make',
      'mov h264': 'MOV, H.264: for editing programs',
      'mkv h264': 'Matroska, H.264'
    } as Readonly<Record<string, string>>,
    by: 'Picture by',
    bys: { quality: 'Quality', rate: 'Bit rate' },
    quality: 'Quality',
    qualityUnit: 'of 100',
    kbps: 'Bit rate',
    kbpsUnit: 'kbit/s',
    height: 'Height',
    asRecorded: 'As recorded',
    lines: (height: number) => `${height} lines`,
    shape: 'Shape',
    fit: 'Fitted by',
    sound: 'Sound',
    sounds: { keep: 'As it is, where the format takes it', encode: 'Encoded anew' },
    background: 'Background',
    stretch: 'How much',
    whole: 'All of it',
    trial: 'A trial: 10 seconds from the playhead',
    estimate: (length: string, bytes: number) => `${length} long, about ${sizeOf(bytes)}`,
    render: 'Render',
    rendering: 'Rendering',
    left: (stage: string, percent: number, left: string) =>
      `${stage}, ${percent} %${left === '' ? '' : `, ${left} left`}`,
    waiting: 'Waits until another video is made',
    cancel: 'Cancel',
    failed: (why: string) => `It could not be rendered: ${why}`,
    made: 'Rendered',
    none: 'Nothing has been rendered of this recording yet.',
    facts: (length: string, bytes: number, when: string) => `${length}, ${sizeOf(bytes)}, ${when}`,
    save: 'Save',
    look: 'Look at it',
    close: 'Close',
    remove: 'Delete',
    removed: (name: string) => `${name} is deleted when you leave this page.`,
    bringBack: 'Keep it',
    noCues: 'This track has no cues: there is nothing to burn in.'
  },
  handOver: {
    notCarried: 'What this format does not carry',
    filesToHandOver: 'Files to hand over',
    handOver: 'Hand over',
    format: 'Format',
    transcriptToBeRead: 'Transcript to be read',
    toBeRead: 'To be read:',
    withTimes: 'with times',
    withSpeakers: 'with speakers',
    cues: (count: number) => plural(count, 'cue'),
    ready: 'Ready',
    readyHint: 'Nothing is left to do on this track: the list of recordings shows it',
    download: 'Download',
    thereIsNothingTo: 'There is nothing to hand over yet.',
    previewOf: (name: string) => `Preview of ${name}`,
    savingFirst: 'Saving first…'
  }
};
