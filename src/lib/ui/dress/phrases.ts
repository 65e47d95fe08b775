/** The phrases of the place where captions get their look. */
export const phrases = {
  title: 'Look of the captions',
  about: 'Changes show on the picture at once. WebVTT files carry the place with each cue.',
  cue: {
    label: 'Cue on the picture',
    previous: 'Previous cue',
    next: 'Next cue',
    none: 'No cue is chosen',
    place: (number: number, of: number, at: string) => `Cue ${number} of ${of}, ${at}`
  },
  size: {
    label: 'Size of the letters',
    name: 'Size of the letters, in hundredths of the picture’s height',
    value: (percent: number) => `${percent} % of the picture’s height`
  },
  place: {
    label: 'Place',
    ofAll: 'of all cues',
    ofCue: 'of the chosen cue only',
    grid: 'Place on the picture',
    asOthers: 'As all the others'
  }
};
