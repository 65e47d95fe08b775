/** The phrases of the place where captions get their look. */
import { plural } from '$lib/core/plural';
import type { Placement } from '$lib/core/track';

const MOST_LETTERS = 40;
const listLetters = (letters: readonly string[]): string =>
  letters.slice(0, MOST_LETTERS).join(' ') + (letters.length > MOST_LETTERS ? ' …' : '');

export const phrases = {
  title: 'Look of the captions',
  cue: {
    label: 'Cue on the picture',
    previous: 'Previous cue',
    next: 'Next cue',
    none: 'No cue is chosen',
    place: (number: number, of: number, at: string) => `Cue ${number} of ${of}, ${at}`,
    ownLook: 'has a look of its own',
    withOwn: (count: number) => `${plural(count, 'cue')} with a look of their own`,
    nextOwn: 'Next one'
  },
  scope: {
    label: 'For whom',
    track: 'All cues',
    speaker: 'A speaker',
    cues: (count: number) => (count > 1 ? `${count} cues` : 'This cue'),
    speakerName: 'Speaker',
    ownValues: (count: number) => `${plural(count, 'value')} of ${count === 1 ? 'its' : 'their'} own`,
    asOthers: 'All as all the others',
    nothingOwn: 'As all the others'
  },
  tabs: {
    label: 'What of the look',
    letters: 'Letters',
    colors: 'Colours',
    box: 'Box',
    place: 'Place',
    motion: 'Motion'
  },
  kept: {
    label: 'Kept look',
    own: 'As set by hand',
    from: (name: string) => `From “${name}”`,
    choose: 'Kept looks',
    newer: (name: string) => `“${name}” has changed since this track took it.`,
    takeNewer: 'Take the new one',
    shipped: 'That come with Vine Tap',
    ours: 'Of the house',
    save: 'Keep this look',
    name: 'Name',
    keep: 'Keep',
    rename: 'Rename',
    remove: 'Delete',
    removed: (name: string) => `“${name}” deleted.`,
    bringBack: 'Bring it back',
    bringIn: 'Bring in a file',
    takeOut: 'Save ours as a file',
    use: 'Use',
    replaced: (name: string) => `The kept look “${name}” was replaced.`,
    shippedName: (name: string) => `“${name}” comes with Vine Tap: give yours another name.`,
    broughtIn: (count: number) => `${plural(count, 'look')} brought in.`,
    purposes: {
      'Bell tower': 'Plain broadcast',
      'Lecture room': 'Talk on the web',
      Carousel: 'Children',
      'Tall window': 'Vertical clip',
      Candlelight: 'Quiet film',
      Lighthouse: 'High contrast'
    } as Readonly<Record<string, string>>
  },
  letters: {
    face: 'Typeface',
    ourFaces: 'Of the house',
    bringIn: 'Bring in a typeface',
    broughtIn: (name: string, embedding: string) =>
      `“${name}” brought in. Its maker lets it be embedded: ${embedding}.`,
    removeFace: (name: string) => `Take “${name}” from the list`,
    removedFace: (name: string) => `“${name}” is no longer in the list.`,
    backAgain: (name: string) => `“${name}” is in the list again.`,
    bringBackFace: 'Bring it back',
    goneFace: 'The typeface of this look is not here any more: it is drawn in the usual one.',
    weight: 'Weight',
    italic: 'Italics',
    size: 'Size',
    sizeUnit: '% of height',
    letterSpacing: 'Letter spacing',
    lineSpacing: 'Line spacing',
    capitals: 'All capitals',
    align: 'Lines among each other',
    aligns: { start: 'At the start', centre: 'Centred', end: 'At the end' },
    em: 'em',
    times: '× size',
    lacking: (letters: readonly string[], face: string, by: string | null) =>
      by === null
        ? `No face here has ${listLetters(letters)}.`
        : `${face} has no ${listLetters(letters)}: drawn in ${by}.`,
    shrunk: 'The lines of this cue do not fit at this size: they are drawn smaller.',
    synthetic: 'This face has no italics: its letters are slanted.'
  },
  colors: {
    text: 'Letters',
    outline: 'Outline',
    outlineWidth: 'Width of the outline',
    shadow: 'Shadow',
    shadowX: 'Shadow to the right',
    shadowY: 'Shadow downwards',
    shadowBlur: 'Softness',
    hex: (of: string) => `${of}, hexadecimal`,
    pick: (of: string) => `${of}, colour`,
    recent: 'Recent colours',
    take: (color: string) => `Take ${color}`,
    against: (ratio: string, what: string) => `${ratio} : 1 on the ${what}`,
    box: 'box',
    outlineOf: 'outline',
    letters: 'letters'
  },
  box: {
    kind: 'Box',
    kinds: { none: 'None', line: 'Behind each line', block: 'Behind all lines' },
    color: 'Colour of the box',
    opacity: 'Opacity',
    padding: 'Padding',
    rounding: 'Rounding'
  },
  place: {
    label: 'Place',
    grid: 'Place on the picture',
    free: 'or drag the captions on the picture',
    across: 'Middle from the left',
    down: 'Middle from the top',
    percent: '%',
    widest: 'Widest line',
    margin: 'Margin kept free',
    mover: 'Place of the captions: arrow keys move them, with Shift farther',
    at: (place: Placement) =>
      typeof place === 'string'
        ? place.replace(' ', ', ')
        : `${Math.round(place.xPercent)} % from the left, ${Math.round(place.yPercent)} % from the top`
  },
  motion: {
    come: 'Comes',
    go: 'Goes',
    arrivals: { cut: 'At once', fade: 'Fading', rise: 'Rising' },
    length: 'Takes',
    ms: 'ms',
    follow: 'Words as they are spoken',
    follows: { none: 'All at once', appear: 'Appear', color: 'Colour', box: 'Box' },
    followColor: 'Colour of the spoken word',
    stillness: 'Your system asks for less motion: the preview holds still. The video will move.'
  },
  contrast: {
    label: 'Contrast on the picture',
    measuring: (percent: number) => `Measuring the light of the picture, ${percent} %`,
    failed: (why: string) => `The light of the picture could not be measured: ${why}`,
    worst: 'worst',
    median: 'median',
    ratio: (ratio: number) => `${ratio.toFixed(1)} : 1`,
    good: 'Stands out everywhere.',
    why: (behind: string, line: number, at: string) => `${behind} behind line ${line} at ${at}.`,
    behind: { bright: 'Bright picture', dark: 'Dark picture', middling: 'Middling grey' },
    restless: 'What is behind it moves a lot.',
    poorCues: (count: number) => `${plural(count, 'cue')} below 4.5 : 1`,
    noPoor: 'No cue below 4.5 : 1',
    next: 'Hardest to read',
    chart: 'Worst contrast of every cue over the recording',
    worstOf: (ratio: string, at: string) => `The least contrast is ${ratio} : 1, at ${at}.`,
    cueAt: (ratio: number) => `${ratio.toFixed(1)} : 1`,
    frame: (ratio: number) => `On this very frame ${ratio.toFixed(1)} : 1.`,
    forThis: 'this cue',
    forAll: 'all cues',
    mend: {
      box: (opacity: number) => `A box of ${Math.round(opacity * 100)} %`,
      outline: 'An outline',
      place: (place: string) => `Place it ${place}`,
      color: (color: string) => `Letters in ${color}`
    },
    mendFor: (what: string, whom: string, ratio: number) => `${what}, for ${whom}: ${ratio.toFixed(1)} : 1`
  },
  asOthers: (value: string) => `${value}: as all the others again`,
  shape: {
    label: 'Shape',
    aspects: { 'as is': 'As it is', '16:9': '16 : 9', '9:16': '9 : 16', '1:1': '1 : 1', '4:5': '4 : 5' },
    fit: 'Fitted by',
    fits: { crop: 'cropping', pad: 'bars' },
    background: 'Background',
    waveform: 'with the waveform',
    fullScreen: 'Full screen'
  }
};
