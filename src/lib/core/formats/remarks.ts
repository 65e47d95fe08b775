/** What a file of a format cannot say of how a track looks, in words, before it is taken away. */
import type { CueId } from '../id';
import { plural } from '../plural';
import type { WriteOptions } from './options';
import { HOUSE_LOOK, hasOutline, hasOwnLook, hasShadow, overrideLook, type Look, type Track } from '../track';

export interface Remark {
  readonly code:
    | 'look_not_carried'
    | 'place_not_carried'
    | 'own_looks_not_carried'
    | 'motion_not_carried'
    | 'letters_not_carried'
    | 'marks_not_carried'
    | 'voices_not_carried'
    | 'times_not_carried'
    | 'times_rounded'
    | 'lines_broken'
    | 'too_many_rows'
    | 'overlaps_cut'
    | 'cues_late'
    | 'too_many_events';
  /** A sentence. */
  readonly message: string;
  readonly cueIds?: readonly CueId[];
}

/** Values of a look, by what they are called. */
const VALUES = {
  'the typeface': ({ face, weight, italic }) => !same({ face, weight, italic }),
  'the size': ({ sizePercent }) => !same({ sizePercent }),
  'letter and line spacing': ({ letterSpacingEm, lineSpacing }) => !same({ letterSpacingEm, lineSpacing }),
  outlines: hasOutline,
  shadows: hasShadow,
  capitals: ({ capitals }) => !same({ capitals }),
  colours: ({ color, box }) => !same({ color, box }),
  alignment: ({ align }) => !same({ align })
} satisfies Readonly<Record<string, (look: Look) => boolean>>;
export type LookValue = keyof typeof VALUES;
const NAMES = Object.keys(VALUES) as readonly LookValue[];

/** What of a track's look a format carries. */
export interface Carries {
  readonly values: readonly LookValue[];
  /** Where captions stand as a rule, and single cues. */
  readonly places: boolean;
  readonly ownPlaces: boolean;
  /** Looks of single cues and how captions move: only where a track is kept whole. */
  readonly all?: true;
}

export const NOTHING_LOST: Carries = { values: NAMES, places: true, ownPlaces: true, all: true };

const same = (values: Partial<Look>): boolean =>
  Object.entries(values).every(
    ([key, value]) => JSON.stringify(value) === JSON.stringify(HOUSE_LOOK[key as keyof Look])
  );

/** All that is lost, in words. Transcripts carry no look, and need none. */
export function remarksOn(track: Track, format: Told, options: WriteOptions): readonly Remark[] {
  return [
    ...lookNotCarried(track, format),
    ...wordsNotCarried(track, format),
    ...(format.cannotSay?.(track, options) ?? [])
  ];
}

/** What of a format remarks are made of. */
interface Told {
  readonly name: string;
  readonly kind: string;
  readonly options: readonly string[];
  readonly carries?: Carries | undefined;
  readonly cannotSay?: ((track: Track, options: WriteOptions) => readonly Remark[]) | undefined;
}

function lookNotCarried(track: Track, { name, carries }: Told): readonly Remark[] {
  if (carries === undefined || carries.all === true) return [];
  const looks = [track.look, ...track.speakers.map(({ look }) => overrideLook(track.look, look))];
  const lost = NAMES.filter((value) => !carries.values.includes(value) && looks.some(VALUES[value]));
  const own = track.cues.filter((cue) => (carries.ownPlaces ? cue.look !== null : hasOwnLook(cue)));
  const moves = looks.some(({ motion }) => motion.come !== 'cut' || motion.go !== 'cut' || motion.follow !== 'none');
  const isPlaced = track.look.placement !== HOUSE_LOOK.placement;
  const remarks: readonly (Remark | false)[] = [
    lost.length > 0 && {
      code: 'look_not_carried',
      message: `${name} does not carry ${listOf(lost)}: players show their own.`
    },
    isPlaced &&
      !carries.places && { code: 'place_not_carried', message: `${name} does not carry where captions stand.` },
    own.length > 0 && {
      code: 'own_looks_not_carried',
      message: `${plural(own.length, 'cue')} with a look of their own will look like the others in ${name}.`,
      cueIds: own.map(({ id }) => id)
    },
    moves && {
      code: 'motion_not_carried',
      message: `${name} does not carry how captions come, go and follow the voice: a video with the captions in its picture does.`
    }
  ];
  return remarks.filter((remark) => remark !== false);
}

const MOST_TOLD = 12;

export const lettersNotCarried = (name: string, lacking: readonly string[]): Remark => ({
  code: 'letters_not_carried',
  message: `${name} has no ${lacking.slice(0, MOST_TOLD).join(' ')}${lacking.length > MOST_TOLD ? ' and others' : ''}: question marks stand for them.`
});

/** Who speaks, and how words are marked; transcripts have ways of their own. */
function wordsNotCarried(track: Track, { name, kind, options, carries }: Told): readonly Remark[] {
  if (kind === 'transcript' || carries?.all === true) return [];
  const shown = track.words.filter((word) => word.shown);
  const remarks: readonly (Remark | false)[] = [
    kind === 'editing' &&
      shown.some(({ marks }) => marks.length > 0) && {
        code: 'marks_not_carried',
        message: `${name} does not carry italics, bold letters and underlines.`
      },
    !options.includes('speakers') &&
      shown.some(({ speakerId }) => speakerId !== null) && {
        code: 'voices_not_carried',
        message: `${name} does not carry who speaks.`
      }
  ];
  return remarks.filter((remark) => remark !== false);
}

const listOf = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
