/** The words of Trim. */
import { plural } from '$lib/core/plural';
import { formatClock } from '$lib/core/time';
import type { CutRemark } from '$lib/core/cuts';
import type { JoinFault } from '$lib/core/trims';
import type { Copying } from '$lib/client/api';

const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;
const short = (ms: number): string => (ms < 1000 ? `${Math.round(ms)} ms` : seconds(ms));

export const phrases = {
  title: 'Trim',
  text: 'The text in playing order',
  loading: 'Opening the trim…',
  noWords: 'This track has no words yet: have the recording heard, or take out stretches on the waveform.',
  strip: {
    trim: 'Trim',
    add: 'New trim',
    addTitle: (count: number) => `Trim ${count}`,
    duplicate: 'Duplicate this trim',
    rename: 'Rename this trim',
    name: 'Name of the trim',
    remove: 'Delete this trim',
    removed: (title: string) => `“${title}” is deleted.`,
    bringBack: 'Bring it back',
    recorded: 'recorded',
    trimmed: 'trimmed',
    out: (ms: number, share: number) => `${formatClock(ms)} out, ${Math.round(share * 100)} %`,
    nothingOut: 'nothing out yet',
    longer: (ms: number) => `${formatClock(ms)} longer`
  },
  signs: {
    pause: (ms: number) => `Pause of ${seconds(ms)}`,
    putIn: (ms: number) => `Put-in pause of ${seconds(ms)}`,
    short: seconds,
    join: (faults: readonly JoinFault[]) =>
      faults.length === 0 ? 'Join' : `Join, likely to be heard: ${faults.join(', ')}`,
    silent: 'Silenced',
    gap: 'Taken out, its time left'
  },
  acts: {
    label: 'What is chosen',
    chosen: (ms: number) => `${seconds(ms)} chosen`,
    pauseChosen: (ms: number) => `put-in pause of ${seconds(ms)}`,
    picked: (ms: number) => `${seconds(ms)} picked up`,
    close: 'Take out',
    putBack: 'Put back',
    gap: 'Leave the gap',
    silence: 'Silence',
    pickUp: 'Pick up',
    putDown: 'Put down here',
    again: 'Put down again',
    about: 'Choose words by a click, more with Shift or by drawing over them; or a stretch on the waveform.',
    all: 'Put everything back',
    pause: 'Put in a pause'
  },
  waves: {
    label: 'Waveform of the passage in hand',
    recorded: (at: string) => `recorded ${at}`,
    trimmed: (at: string) => `trimmed ${at}`,
    edge: (edge: 'start' | 'end', at: string) => `${edge === 'start' ? 'Begins' : 'Ends'} at ${at}`,
    closer: 'Closer, down to the millisecond',
    farther: 'Farther',
    none: 'The waveform is not there yet.'
  },
  tabs: {
    label: 'Beside the text',
    pauses: 'Pauses',
    hesitations: 'Hesitations',
    joins: 'Joins',
    captions: 'Captions',
    away: 'Export'
  },
  pauses: {
    threshold: 'Quieter than speech by',
    least: 'At least',
    margin: 'Left at each side',
    shorten: 'Shorten to',
    db: 'dB',
    ms: 'ms',
    found: (count: number, savedMs: number) =>
      count === 0 ? 'No pause is found by these values.' : `${plural(count, 'pause')}, ${seconds(savedMs)} in all.`,
    take: 'Take them all',
    through: 'One by one',
    clear: 'Show none',
    own: 'Put in a pause',
    ofChosen: 'The put-in pause',
    length: 'Length',
    putIn: 'Put in at the playhead'
  },
  hesitations: {
    kinds: {
      sound: 'Sounds: um, er',
      repeat: 'Said twice',
      'false start': 'Begun anew',
      phrase: 'Phrases of your list'
    },
    count: (count: number) => String(count),
    found: (count: number, savedMs: number) =>
      count === 0 ? 'No place is found by these values.' : `${plural(count, 'place')}, ${seconds(savedMs)} in all.`,
    show: 'Show them',
    take: 'Take them all',
    through: 'One by one',
    shapes: (count: number) =>
      count === 0
        ? ''
        : `${plural(count, 'stretch')} without a word ${count === 1 ? 'sounds' : 'sound'} like a hesitation; one by one ${count === 1 ? 'it is' : 'they are'} offered too.`,
    list: 'Your list of phrases',
    listHint: 'one a line',
    word: 'Any word or phrase',
    find: 'Find it',
    foundWords: (count: number) =>
      count === 0 ? 'It is said nowhere.' : `Said ${count === 1 ? 'once' : `${count} times`}.`
  },
  review: {
    place: (number: number, count: number) => `${number} of ${count}`,
    take: 'Take out',
    shorten: 'Shorten',
    keep: 'Keep',
    hear: 'Hear it without',
    end: 'End'
  },
  joins: {
    count: (count: number, heard: number) =>
      count === 0
        ? 'No joins yet: nothing is taken out.'
        : `${plural(count, 'join')}, ${heard === 0 ? 'none likely to be heard' : `${heard} likely to be heard`}.`,
    list: 'Joins in playing order',
    faults: {
      'in a sound': 'cuts through a sound',
      breath: 'cuts a breath in half',
      level: 'one side is louder',
      background: 'the room changes',
      pitch: 'the voice jumps'
    } satisfies Record<JoinFault, string>,
    fine: 'not likely to be heard',
    hear: 'Hear it',
    next: 'Next',
    better: 'Take the better edge',
    fade: 'Crossfade here',
    fadeAll: 'Crossfade of all others',
    ends: 'Ends',
    begins: 'Begins'
  },
  captions: {
    about: (title: string) => `The captions as they are of “${title}”, where they need a look.`,
    none: 'Every caption that is left is as it was.',
    list: 'Captions that deserve a look',
    counts: (before: number, after: number) => `${before} cues as recorded, ${after} as trimmed.`,
    kinds: {
      'left out': 'gone with its sound',
      shortened: 'shortened',
      parted: 'in several parts',
      'new sound': 'new sound'
    } satisfies Record<CutRemark['kind'], string>
  },
  away: {
    what: 'What',
    whole: 'The whole trim',
    passage: 'What is chosen, alone',
    as: 'As',
    kinds: { sound: 'Sound', video: 'Video', list: 'Cut list' },
    captions: 'Captions',
    captionsKinds: { none: 'none', burned: 'burnt in', inside: 'inside the file' },
    shape: 'Shape',
    cut: 'How the picture is cut',
    exact: 'Exact, slower: encoded anew, to the frame',
    fast: 'Fast, may begin a few frames early: copied',
    looking: 'The key frames are looked for…',
    copied: ({ earlyCount, passages, mostEarlyMs, mostLateMs }: Copying) =>
      [
        earlyCount === 0
          ? 'No picture begins early.'
          : `${earlyCount} of ${plural(passages, 'passage')} ${earlyCount === 1 ? 'begins' : 'begin'} early, by ${short(mostEarlyMs)} at most.`,
        mostLateMs === 0 ? '' : `Behind its sound a picture stays up to ${short(mostLateMs)}.`,
        earlyCount === 0 && mostLateMs === 0 ? '' : 'Only the room is heard there.'
      ].join(' '),
    render: 'Make it',
    rendering: (stage: string) => `${stage.slice(0, 1).toUpperCase()}${stage.slice(1)}…`,
    cancel: 'Cancel',
    made: 'Made of trims',
    download: 'Download',
    bringIn: 'Bring it in as a recording',
    broughtIn: 'It is a recording of its own now, with its tracks.',
    open: 'Open it',
    remove: 'Delete',
    bringBack: 'Bring it back',
    deleted: 'Deleted.',
    nothing: 'Nothing is left in this trim.',
    lists: { otio: 'OpenTimelineIO', edl: 'EDL', csv: 'Table with the text (CSV)' },
    take: 'Take it',
    files: 'Caption files as of this trim are taken in Hand over: choose there what it shows.'
  }
};
