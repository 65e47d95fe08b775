/** The phrases of the place where files are handed over. */
import type { ChangesSince } from '$lib/core/compare';
import { plural } from '$lib/core/plural';

const sizeOf = (bytes: number): string =>
  bytes < 1_000_000
    ? `${Math.max(1, Math.round(bytes / 1000))} kB`
    : bytes < 1_000_000_000
      ? `${(bytes / 1_000_000).toFixed(bytes < 10_000_000 ? 1 : 0)} MB`
      : `${(bytes / 1_000_000_000).toFixed(1)} GB`;

export const phrases = {
  tabs: { label: 'What is handed over', files: 'Files', bundle: 'Bundle', video: 'Video', handed: 'Handed over' },
  video: {
    intro: 'A video with the captions in its picture, drawn exactly as in Dress, or inside it as tracks.',
    introSound: 'There is no picture in this recording: a plain background takes its place.',
    captions: 'Captions',
    captionKinds: { burned: 'Burnt into the picture', inside: 'Inside, as tracks', none: 'None' },
    picture: 'Picture',
    asItIs: 'As it is: nothing is encoded anew',
    encodedAnew: 'Encoded anew',
    track: 'Track',
    first: 'Shown first',
    firstHint: 'Players show it until somebody chooses another one',
    forced: 'Always',
    forcedHint: 'Players show it even where captions are off: for what is spoken in another language',
    insideHint: 'Captions are marked as for those who do not hear; subtitles are not.',
    noTracks: 'Choose a track that goes inside.',
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
    kinds: {
      ...{ captions: 'For players', editing: 'For editing programs' },
      ...{ data: 'For other programs', transcript: 'To be read' }
    },
    cues: (count: number) => plural(count, 'cue'),
    ready: 'Ready',
    readyHint: 'Nothing is left to do on this track: the list of recordings shows it',
    download: 'Download',
    thereIsNothingTo: 'There is nothing to hand over yet.',
    previewOf: (name: string) => `Preview of ${name}`
  },
  options: {
    label: 'What is said with it',
    times: 'times',
    speakers: 'speakers',
    sounds: 'described sounds',
    formatting: 'italics, bold, underlines',
    byteOrderMark: 'byte-order mark',
    crlf: 'Windows line ends',
    offsetMs: 'Moved by',
    frameRate: 'Pictures a second',
    startTimecode: 'Begins at',
    dropFrame: 'drop-frame',
    hints: {
      times: 'When each paragraph is said',
      speakers: 'Who speaks',
      sounds: 'Such as [bell strikes]',
      formatting: 'Without it, plain text alone',
      byteOrderMark: 'Some programs on Windows need it to read letters beyond the English ones',
      crlf: 'For old programs on Windows',
      offsetMs: 'For a video that begins earlier or later than the recording: 10 puts every cue ten seconds later',
      frameRate: 'As the video has that it is for',
      dropFrame: 'Numbers of pictures are left out so that the time code keeps to the clock: only at 29.97 and 59.94',
      startTimecode: 'The time code of the first picture: hours, minutes, seconds, pictures'
    }
  },
  bundle: {
    for: 'For',
    ours: 'Ours',
    shipped: 'Shipped',
    changed: 'Changed by hand',
    name: 'Name',
    keepAs: 'Keep this destination as',
    keep: 'Keep',
    kept: (name: string) => `Kept as “${name}”.`,
    shippedName: (name: string) => `“${name}” comes with Vine Tap: give yours another name.`,
    remove: 'Delete',
    removed: (name: string) => `“${name}” is deleted.`,
    bringBack: 'Bring it back',
    sheet: (name: string) => `Whoever gets these asks for the sheet “${name}”; this track is checked by another one.`,
    tracks: 'Tracks',
    formats: 'Formats',
    names: 'Names',
    pattern: 'Pattern',
    languages: 'Languages as',
    small: 'small letters and hyphens',
    files: (count: number) => (count === 0 ? 'No file' : plural(count, 'file')),
    download: 'Download as ZIP',
    making: 'The files are written…',
    cancel: 'Cancel',
    handedOver: (count: number) => `${plural(count, 'file')} handed over.`
  },
  handedOver: {
    loading: 'What was handed over is looked up…',
    none: 'Nothing of this track has left the house yet. What is saved from here is noted with its version, time and hash.',
    tryAgain: 'Try again',
    comparing: 'The track is being compared with what was handed over…',
    since: (version: number) => `Changed since version ${version}`,
    asItIs: (version: number) => `Version ${version} says what the track says now.`,
    changed: (version: number) => `Changed since version ${version} was handed over.`,
    what: ({ words, cues }: ChangesSince) =>
      `${plural(words.substitutions + words.deletions + words.insertions, 'word')} otherwise; ` +
      `${plural(cues.made, 'cue')} made, ${cues.gone} gone, ${cues.timed} timed anew`,
    timed: 'timed or placed anew',
    next: (version: number) => `What is handed over now is version ${version}.`,
    version: (version: number) => `Version ${version}`,
    facts: (format: string, bytes: number, when: string) => `${format}, ${sizeOf(bytes)}, ${when}`,
    hash: (sha256: string) => `SHA-256 of the file: ${sha256}`
  }
};
