/** The words of Check. */
import { GROUP_NAMES, SEVERITY_NAMES } from '$lib/core/checks';
import type { ClientCommand } from '$lib/core/commands';
import type { ChangesSince } from '$lib/core/compare';
import { plural } from '$lib/core/plural';
import { formatClock } from '$lib/core/time';
import { lookUp, type Track } from '$lib/core/track';

const quoted = (text: string): string => `“${text}”`;
const span = (startMs: number, endMs: number): string => `${formatClock(startMs, 2)} – ${formatClock(endMs, 2)}`;

const AWAITED = { sound: 'sound', shots: 'shots', light: 'light of the picture', wording: 'wording' };

export const phrases = {
  views: { label: 'Check', findings: 'Findings', figures: 'Figures', report: 'Report', sheet: 'Sheet' },
  groups: { all: 'All', ...GROUP_NAMES },
  severities: SEVERITY_NAMES,
  asTrimmed: { about: 'As trimmed, to be looked at: captions are mended as they were recorded.' },
  off: 'Off',
  list: {
    label: 'Findings in the order of time',
    group: 'Which findings',
    left: (count: number) => (count === 0 ? 'Nothing is left' : `${plural(count, 'finding')} left`),
    stands: (count: number) => `${count} let stand`,
    showLeft: 'Show what is left',
    checking: 'Checking the track…',
    awaited: (what: readonly ('sound' | 'shots' | 'light' | 'wording')[]) =>
      `Still looking at the ${what.map((one) => AWAITED[one]).join(', the ')}…`,
    allDone: 'Everything is as the sheet asks, or stands for a reason.',
    noneHere: 'Nothing in this group.',
    noneStands: 'Nothing was let stand.',
    notChecked: (count: number) => `${plural(count, 'check')} could not be made`,
    track: 'The track',
    stretch: 'No caption here'
  },
  sheet: {
    from: 'Sheet',
    own: 'Changed by hand',
    ownOf: (name: string) => `${name}, changed by hand`,
    ours: 'Ours',
    shipped: 'Shipped',
    newer: (name: string) => `“${name}” has changed since.`,
    takeNewer: 'Take it as it is now',
    taken: (name: string) => `The track is checked by “${name}”.`,
    name: 'Name',
    keepAs: 'Keep it as',
    keep: 'Keep',
    kept: (name: string) => `Kept as “${name}”.`,
    shippedName: (name: string) => `“${name}” comes with Vine Tap: give yours another name.`,
    rename: 'Rename',
    remove: 'Delete',
    removed: (name: string) => `“${name}” is deleted; tracks that took it keep theirs.`,
    bringBack: 'Bring it back',
    bringIn: 'Bring in…',
    takeOut: 'Take ours out',
    broughtIn: (count: number) => `${plural(count, 'sheet')} brought in.`,
    check: 'Check',
    counts: 'Counts as',
    countsAs: (title: string) => `${title}: counts as`,
    asRules: 'as the track’s rules',
    back: (title: string) => `${title}: back to what it was`,
    purposes: {
      'Web video': 'for players of the web',
      Broadcast: 'strict in times and signs',
      Children: 'slow, short, nothing parted',
      'Vertical clip': 'narrow and quick',
      Accessibility: 'all that deaf viewers need'
    } as Readonly<Record<string, string>>
  },
  figures: {
    asTable: 'As a table',
    noCues: 'There are no cues yet.',
    readingSpeed: 'Reading speed',
    speed: (value: number) => `${Math.ceil(value)} characters a second`,
    tooFast: (count: number, all: number, limit: number) =>
      count === 0
        ? `none of ${plural(all, 'cue')} over ${limit} characters a second`
        : `${count} of ${plural(all, 'cue')} over ${limit} characters a second`,
    charactersASecond: 'Characters a second',
    at: 'At',
    durations: 'On screen',
    gaps: 'Gaps between cues',
    inSeconds: 'in seconds',
    seconds: 'Seconds',
    cues: 'Cues',
    overlapping: 'over',
    covered: 'Speech under captions',
    notKnown: 'Where there is speech is not known yet.',
    contrast: 'Contrast on the picture',
    sinceDraft: 'Since the draft',
    comparing: 'The draft is being compared…',
    draft: ({ words, cues }: ChangesSince) =>
      `${words.substitutions} words changed, ${words.deletions} put in, ${words.insertions} taken out (${(words.wordErrorRate * 100).toFixed(1)} % were wrong); ` +
      `${plural(cues.made, 'cue')} made, ${cues.gone} gone, ${cues.timed} timed anew, ${cues.same} with the draft’s times`,
    ratio: 'Contrast',
    poor: (count: number) => (count === 0 ? 'none below 4.5 : 1' : `${plural(count, 'cue')} below 4.5 : 1`)
  },
  report: {
    label: 'The report',
    about: 'to show to a client, or to keep with the files',
    pdf: 'Save as PDF',
    html: 'Save as web page',
    loading: 'The report is being written…',
    again: 'Try again',
    more: (count: number) => `and ${count} more, in the file`
  },
  panel: {
    label: 'The finding in hand',
    place: (at: number, count: number) => `${at} of ${count}`,
    figure: (value: string, limit: string) => `${value} · limit ${limit}`,
    wouldMend: 'What would mend it',
    noMending: 'Nothing mends it at a stroke.',
    worse: 'Mending it at a stroke would make something else worse.',
    looking: 'Looking for what would mend it…',
    mending: 'Each is tried, and mended…',
    mend: 'Mend it',
    mendKind: (count: number) => `Mend all ${count} of its kind`,
    letStand: 'Let it stand',
    reason: 'Why it stands',
    reasonHint: 'for the report, and for whoever comes after',
    keep: 'It stands',
    cancel: 'Cancel',
    reconsider: 'It does not stand after all',
    standsFor: (reason: string) => (reason === '' ? 'It stands, no reason given.' : `It stands: ${reason}`),
    next: 'Next',
    inRead: 'In Read',
    inTime: 'In Time',
    about: 'Gone through one by one: each is mended, or stands for a reason. What you mend can be undone.',
    go: 'Go through them',
    measuring: (percent: number) => `The light of the picture is measured: ${percent} %`
  }
};

/** What a mending does, in a few words each. */
export function tellMending(commands: readonly ClientCommand[], track: Track): readonly string[] {
  const { findWord } = lookUp(track);
  return commands.flatMap((command): string[] => {
    switch (command.type) {
      case 'timeCues':
        return command.times.map(({ startMs, endMs }) => `Shown ${span(startMs, endMs)}`);
      case 'setWordText':
        return [`${quoted(findWord(command.wordId)?.text ?? '')} becomes ${quoted(command.text)}`];
      case 'replaceWords': {
        const old = command.wordIds.map((id) => findWord(id)?.text ?? '').join(' ');
        return [command.text === '' ? `${quoted(old)} goes` : `${quoted(old)} becomes ${quoted(command.text)}`];
      }
      case 'setWordsShown':
        return [`${quoted(command.wordIds.map((id) => findWord(id)?.text ?? '').join(' '))} is left out`];
      case 'setCueText':
        return command.lines.length === 1 ? ['On one line:', command.lines[0]!] : ['Its lines:', ...command.lines];
      case 'splitCue':
        return [`Parted in two before ${quoted(findWord(command.wordId)?.text ?? '')}`];
      case 'moveBorder':
        return ['Its last word goes to the next cue'];
      case 'removeCue':
        return ['The cue is removed'];
      case 'setCuePlacement':
        return ['Placed where the look has it'];
      default:
        return [];
    }
  });
}
