/** The phrases of the list of recordings. */
import { plural } from '$lib/core/plural';
import type { LibraryQuery, TrackSummary, WorkState } from '$lib/client/api';
import type { Upload } from '$lib/client/uploads.svelte';

export const phrases = {
  page: 'Recordings',
  looking: 'Looking for recordings…',
  tryAgain: 'Try again',
  dismiss: 'Dismiss',
  cancel: 'Cancel',
  undo: 'Undo',
  bring: {
    title: 'Bring in a recording',
    about: 'Drop files anywhere on this page: nearly any sound or video is taken. They stay on this machine.',
    choose: 'Choose files',
    narrate: 'Narrate',
    narrateOn: (count: number) => `Narrate, ${count} not ended`,
    narrateAbout: 'Speak into the application, and see the words',
    field: 'Recording',
    done: (title: string) => `${title} is here.`
  },
  upload: {
    sending: (name: string) => `Sending ${name}`,
    state: ({ state, progress }: Pick<Upload, 'state' | 'progress'>): string => {
      const percent = `${Math.round(progress * 100)} %`;
      switch (state) {
        case 'waiting':
          return 'Waiting';
        case 'sending':
          return progress < 1 ? percent : 'Reading it';
        case 'broken':
          return `${percent}, connection lost, trying again`;
        case 'interrupted':
          return `Stopped at ${percent}: choose the same file again to go on`;
        case 'done':
        case 'refused':
          return '';
      }
    }
  },
  empty: {
    title: 'Nothing to caption yet',
    about: 'Bring in a recording: it is heard on this machine, and its words come with their times.',
    places: 'What is done with it, place by place'
  },
  none: {
    title: 'No recording fits',
    showAll: 'Show all recordings'
  },
  find: {
    label: 'Find by title or spoken words',
    language: 'Language',
    anyLanguage: 'Any language',
    work: 'State',
    anyWork: 'Any state',
    project: 'Project',
    anyProject: 'All projects',
    noProject: 'In no project',
    sort: 'Sort by',
    reverse: 'Reverse the order',
    showAll: 'Show all',
    count: (count: number) => plural(count, 'recording'),
    behind: (count: number) => `${plural(count, 'track')} still to be indexed`
  },
  sorts: {
    added: 'Newest',
    edited: 'Last edited',
    title: 'Title',
    length: 'Longest'
  } satisfies Record<LibraryQuery['sort'], string>,
  works: {
    unheard: 'Not heard',
    hearing: 'Being heard',
    draft: 'In work',
    ready: 'Ready',
    'handed over': 'Handed over',
    changed: 'Changed since handed over',
    preparing: 'Being prepared',
    failed: 'Cannot be used'
  } satisfies Record<WorkState, string>,
  list: 'Recordings',
  keys: '↑ ↓ row · Space choose · Enter open · H hear or import · C new cut · B hand over · F2 rename · Del bin · / find',
  row: {
    choose: (title: string) => `Choose ${title}`,
    picture: 'Picture and sound',
    sound: 'Sound only',
    rename: (title: string) => `Rename ${title}`,
    renameHint: 'Rename (F2)',
    name: (title: string) => `Title of ${title}`,
    cut: (title: string) => `Bring in a new cut of ${title}`,
    cutHint: 'It was edited again: bring in the new cut, and take its tracks over (C)',
    bin: (title: string) => `Put ${title} in the bin`,
    binHint: 'Put in the bin (Delete)',
    hear: 'Hear',
    carry: 'Take tracks over',
    goOn: 'Go on preparing',
    more: (count: number) => `and ${count} more`,
    cutOf: (title: string | undefined) => `New cut of ${title ?? 'an earlier recording'}`,
    again: 'Hear or import'
  },
  left: {
    failed: (why: string | undefined) => `Cannot be used: ${why ?? 'it could not be read'}`,
    stopped: 'Its preparation was stopped',
    preparing: 'Being prepared',
    waiting: 'Waiting its turn',
    unheard: 'Not heard yet',
    noTrack: 'No track yet',
    ready: 'Ready',
    handedOver: (version: number) => `Handed over, version ${version}`,
    changed: (version: number) => `Changed since version ${version} was handed over`,
    fresh: 'Draft, nothing corrected yet',
    nothing: 'No doubts, no findings',
    notLookedAt: 'doubts not looked through',
    doubts: (count: number) => plural(count, 'doubt'),
    findings: (count: number) => plural(count, 'finding')
  },
  chosen: {
    label: 'Chosen recordings',
    count: (count: number) => `${count} chosen`,
    move: 'Move to project',
    bin: 'Put in the bin',
    bundle: 'Hand over',
    letGo: 'Let go (Esc)',
    all: (count: number) => `Choose all ${count}`
  },
  bundle: {
    title: 'captions',
    head: (count: number) => `Hand over ${plural(count, 'recording')}`,
    for: 'For',
    lastTime: 'As last time',
    files: (count: number) => (count === 0 ? 'No file' : plural(count, 'file')),
    more: (count: number) => `and ${count} more`,
    making: 'The files are written…',
    download: 'Download as ZIP',
    done: (count: number) => `${plural(count, 'file')} handed over.`
  },
  said: {
    one: 'It',
    binned: (count: number, title: string) => (count === 1 ? `${title} is in the bin.` : `${count} are in the bin.`),
    gone: (title: string) => `${title} is gone.`,
    goneForGood: (title: string) => `${title} is gone for good.`,
    back: (count: number, title: string) => (count === 1 ? `${title} is back.` : `${count} are back.`),
    moved: (count: number, project: string | null) =>
      `${plural(count, 'recording')} ${project === null ? 'in no project' : `in “${project}”`}.`,
    renamed: (title: string) => `It is called “${title}” now.`
  },
  projects: {
    title: 'Projects',
    about: 'A project groups recordings that belong together. Deleting one keeps its recordings.',
    manage: 'Projects…',
    add: 'Add project',
    name: 'Name of a new project',
    rename: (name: string) => `Name of the project ${name}`,
    remove: (name: string) => `Delete the project ${name}`,
    removed: (name: string) => `The project “${name}” is deleted; its recordings are in no project.`,
    count: (count: number) => plural(count, 'recording'),
    none: 'There is no project yet.',
    create: 'New project…',
    close: 'Close'
  },
  bin: {
    title: (count: number) => `Bin (${count})`,
    back: 'Bring back',
    remove: 'Delete for good'
  },
  hearAll: {
    label: 'Hear several',
    open: (count: number) => `Hear the ${count} that are not heard yet…`,
    openChosen: (count: number) => `Hear ${plural(count, 'chosen recording')}…`,
    going: (count: number) => (count === 1 ? '1 is being heard or waits' : `${count} are being heard or wait`),
    cancel: (count: number) => (count === 1 ? 'Cancel it' : 'Cancel all'),
    ear: 'Heard by',
    speakers: 'Speakers',
    oneSpeaker: 'One, or not told apart',
    findOut: 'Find out in each',
    start: 'Hear them, one after the other',
    nothing: 'Nothing on this machine hears this language.'
  }
};

const sentence = (text: string): string => text.replace(/^./u, (letter) => letter.toUpperCase());

/** What is left to do on a track. */
export function leftOnTrack(
  track: Pick<TrackSummary, 'state' | 'correctedCount' | 'doubtCount' | 'findingCount' | 'handedOver'>
): string {
  const { left } = phrases;
  if (track.handedOver !== undefined)
    return (track.handedOver.hasChanged ? left.changed : left.handedOver)(track.handedOver.version);
  if (track.state !== 'draft') return left.ready;
  if (track.correctedCount === 0 && track.doubtCount === undefined) return left.fresh;
  const parts = [
    ...(track.doubtCount === undefined ? [left.notLookedAt] : []),
    ...((track.doubtCount ?? 0) > 0 ? [left.doubts(track.doubtCount!)] : []),
    ...((track.findingCount ?? 0) > 0 ? [left.findings(track.findingCount!)] : [])
  ];
  return parts.length === 0 ? left.nothing : sentence(parts.join(', '));
}
