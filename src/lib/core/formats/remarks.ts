/** What a file of a format cannot say of how a track looks, in words, before it is taken away. */
import type { CueId } from '../id';
import { plural } from '../plural';
import { HOUSE_LOOK, hasOutline, hasOwnLook, hasShadow, overrideLook, type Look, type Track } from '../track';

export interface Remark {
  readonly code: 'look_not_carried' | 'place_not_carried' | 'own_looks_not_carried' | 'motion_not_carried';
  /** A sentence. */
  readonly message: string;
  readonly cueIds?: readonly CueId[];
}

/** Values of a look by what they are called, and whether WebVTT carries them. */
const VALUES: readonly {
  readonly name: string;
  readonly isCarried: boolean;
  readonly differs: (look: Look) => boolean;
}[] = [
  { name: 'the typeface', isCarried: false, differs: ({ face, weight, italic }) => !same({ face, weight, italic }) },
  { name: 'the size', isCarried: false, differs: ({ sizePercent }) => !same({ sizePercent }) },
  {
    name: 'letter and line spacing',
    isCarried: false,
    differs: ({ letterSpacingEm, lineSpacing }) => !same({ letterSpacingEm, lineSpacing })
  },
  { name: 'outlines', isCarried: false, differs: hasOutline },
  { name: 'shadows', isCarried: false, differs: hasShadow },
  { name: 'capitals', isCarried: false, differs: ({ capitals }) => !same({ capitals }) },
  { name: 'colours', isCarried: true, differs: ({ color, box }) => !same({ color, box }) },
  { name: 'alignment', isCarried: true, differs: ({ align }) => !same({ align }) }
];

const same = (values: Partial<Look>): boolean =>
  Object.entries(values).every(
    ([key, value]) => JSON.stringify(value) === JSON.stringify(HOUSE_LOOK[key as keyof Look])
  );

/** Of a captions format; transcripts show no captions. */
export function remarksOn(track: Track, formatId: string): readonly Remark[] {
  if (formatId !== 'srt' && formatId !== 'vtt') return [];
  const name = formatId === 'srt' ? 'SRT' : 'WebVTT';
  const isVtt = formatId === 'vtt';
  const looks = [track.look, ...track.speakers.map(({ look }) => overrideLook(track.look, look))];
  const lost = VALUES.filter(({ isCarried, differs }) => !(isVtt && isCarried) && looks.some(differs));
  const own = track.cues.filter((cue) => (isVtt ? cue.look !== null : hasOwnLook(cue)));
  const moves = looks.some(({ motion }) => motion.come !== 'cut' || motion.go !== 'cut' || motion.follow !== 'none');
  const isPlaced = track.look.placement !== HOUSE_LOOK.placement;
  return [
    ...(lost.length === 0
      ? []
      : [
          {
            code: 'look_not_carried' as const,
            message: `${name} does not carry ${listOf(lost.map((value) => value.name))}: players show their own.`
          }
        ]),
    ...(isVtt || !isPlaced
      ? []
      : [{ code: 'place_not_carried' as const, message: 'SRT does not carry where captions stand.' }]),
    ...(own.length === 0
      ? []
      : [
          {
            code: 'own_looks_not_carried' as const,
            message: `${plural(own.length, 'cue')} with a look of their own will look like the others in ${name}.`,
            cueIds: own.map(({ id }) => id)
          }
        ]),
    ...(moves
      ? [
          {
            code: 'motion_not_carried' as const,
            message: `${name} does not carry how captions come, go and follow the voice: a video with the captions in its picture does.`
          }
        ]
      : [])
  ];
}

const listOf = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
