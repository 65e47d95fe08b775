/** What was checked, by which sheet, what was found and what was handed over: a document to show to a client. */
import type { ChangesSince } from '../compare';
import type { HandedOverVersion } from '../handed-over';
import type { Paper, Part, Phrase } from '../paper';
import { plural } from '../plural';
import { formatClock } from '../time';
import { lookUp, plainLines, SEVERITIES, type Sheet, type Track } from '../track';
import type { Check } from './check';
import { figuresOf, type Column } from './figures';
import { GROUPS, MISSING, type Finding, type Knowledge } from './finding';
import { GROUP_NAMES, SEVERITY_NAMES } from './names';
import type { Report } from './run';
import { numbersOf, severityOf, type KeptSheet } from './sheet';
import { CHECKS, findCheck } from './table';

export interface ReportRequest {
  readonly recording: { readonly title: string; readonly durationMs: number };
  readonly track: Track;
  readonly revision: number;
  readonly sheet: Sheet;
  /** As `tellSheet` says it. */
  readonly sheetName: string;
  readonly report: Report;
  /** Why findings stand, by their keys. */
  readonly accepted: ReadonlyMap<string, string>;
  /** With which it was checked. */
  readonly knowledge: Knowledge;
  /** `null` where there is none. */
  readonly sinceDraft: ChangesSince | null;
  /** The newest first. */
  readonly handedOver: readonly HandedOverVersion[];
  /** That files of the track as it is belong to. */
  readonly fileVersion: number;
  /** Since 1970, UTC. */
  readonly atMs: number;
  readonly version: string;
}

/** A track's sheet in words: which of the kept ones it is, or was before it was changed. */
export function tellSheet(
  { sheet, sheetFrom }: Pick<Track, 'sheet' | 'sheetFrom'>,
  kept: readonly KeptSheet[]
): string {
  const from = sheetFrom ?? kept[0]!;
  const source = kept.find(({ name }) => name === from.name);
  const isAsKept = source?.version === from.version && JSON.stringify(source.sheet) === JSON.stringify(sheet);
  const told = nameSheet(from);
  if (isAsKept) return told;
  return source?.version === from.version ? `${told}, changed on this track` : `${told}, as it was then`;
}

export const nameSheet = ({ name, version }: { readonly name: string; readonly version: number }): string =>
  version === 0 ? name : `${name}, version ${version}`;

export function reportPaper(request: ReportRequest): Paper {
  const { track, recording, report, accepted } = request;
  const left = report.findings.filter(({ key }) => !accepted.has(key));
  const stands = report.findings.filter(({ key }) => accepted.has(key));
  const heading = (text: string): Part => ({ kind: 'heading', level: 2, text });
  const say = (text: string, tone: 'plain' | 'soft' = 'plain'): Part => {
    return { kind: 'paragraph', text, startMs: null, tone };
  };
  return {
    title: `Check of ${recording.title}`,
    language: 'en',
    parts: [
      checkedFacts(request),
      heading('What was found'),
      say(tellResult(left, stands.length)),
      ...(left.length === 0 ? [] : [findingTable('Left', left, request, ['The figure', ({ message }) => message])]),
      ...(stands.length === 0
        ? []
        : [findingTable('Let stand', stands, request, ['The reason', ({ key }) => accepted.get(key)!])]),
      heading('Figures'),
      ...(track.cues.length === 0 ? [say('The track has no cues.', 'soft')] : figureParts(request)),
      heading('What was handed over'),
      ...(request.handedOver.length === 0
        ? [say('No file of this track has been handed over yet.', 'soft')]
        : [handedOverTable(request)]),
      heading('What was looked for'),
      ...GROUPS.map((group) => checkTable(group, request, { left, stands })),
      ...(report.notChecked.length === 0 ? [] : [notCheckedFacts(report)])
    ]
  };
}

const dayAndTime = (ms: number): string => `${new Date(ms).toISOString().slice(0, 16).replace('T', ' ')} UTC`;
const seconds = (ms: number): string => `${(ms / 1000).toFixed(2)}\u00a0s`;
const percent = (share: number): string => `${(share * 100).toFixed(1)}\u00a0%`;

function checkedFacts({ recording, track, revision, sheetName, atMs, version }: ReportRequest): Part {
  return {
    kind: 'facts',
    name: 'What was checked',
    facts: [
      { label: 'Recording', value: recording.title },
      { label: 'Length', value: formatClock(recording.durationMs) },
      {
        label: 'Track',
        value: [track.title, track.kind, track.language].filter((part) => part !== '').join(', ')
      },
      { label: 'Version', value: String(revision) },
      { label: 'Sheet', value: sheetName },
      { label: 'Checked', value: `${dayAndTime(atMs)}, by Vine Tap ${version}` }
    ]
  };
}

function tellResult(left: readonly Finding[], stands: number): string {
  const counts = SEVERITIES.flatMap((severity) => {
    const count = left.filter((one) => one.severity === severity).length;
    return count === 0 ? [] : [plural(count, SEVERITY_NAMES[severity].toLowerCase())];
  });
  const stood =
    stands === 0 ? '' : ` ${plural(stands, 'finding')} ${stands === 1 ? 'was' : 'were'} let stand for a reason.`;
  return counts.length === 0 ? `Everything is as the sheet asks.${stood}` : `Left: ${counts.join(', ')}.${stood}`;
}

function findingTable(
  name: string,
  findings: readonly Finding[],
  { track }: ReportRequest,
  [head, tell]: readonly [string, (finding: Finding) => string]
): Part {
  const { findCue } = lookUp(track);
  const textOf = ({ cueId }: Finding): Phrase => {
    const cue = cueId === null ? undefined : findCue(cueId);
    return cue === undefined ? '' : { text: plainLines(track, cue).join(' '), language: track.language };
  };
  return {
    kind: 'table',
    name,
    columns: [
      { head: 'At', share: 11 },
      { head: 'What', share: 26 },
      { head: 'The cue', share: 33 },
      { head, share: 30 }
    ],
    rows: findings.map((finding) => [
      isOfTrack(finding) ? '' : formatClock(finding.startMs, 1),
      `${SEVERITY_NAMES[finding.severity]}: ${findCheck(finding.rule)!.title}`,
      textOf(finding),
      tell(finding)
    ])
  };
}

/** About the track itself, not about a place in it. */
const isOfTrack = ({ cueId, endMs }: Finding): boolean => cueId === null && endMs === 0;

function figureParts({ track, sheet, knowledge, sinceDraft, recording }: ReportRequest): readonly Part[] {
  const figures = figuresOf(track, knowledge, sheet);
  const speeds = figures.speeds.map((one) => one.charactersASecond).sort((a, b) => a - b);
  const { mostCharactersASecond: most } = figures;
  const lengths = track.cues.map(({ startMs, endMs }) => endMs - startMs).sort((a, b) => a - b);
  const middle = (values: readonly number[]): number => values[Math.floor(values.length / 2)]!;
  const tooFast = speeds.filter((speed) => speed > most).length;
  const shownMs = lengths.reduce((sum, length) => sum + length, 0);
  const ratios = [...(knowledge.contrast?.values() ?? [])].map(({ worst }) => worst).sort((a, b) => a - b);
  const facts = [
    {
      label: 'Cues',
      value: `${track.cues.length}, shown for ${formatClock(shownMs)} of ${formatClock(recording.durationMs)}`
    },
    {
      label: 'Reading speed',
      value: `${middle(speeds).toFixed(1)} characters a second in the middle, ${speeds.at(-1)!.toFixed(1)} at most; ${tooFast} over ${most}`
    },
    {
      label: 'Durations',
      value: `${seconds(lengths[0]!)} to ${seconds(lengths.at(-1)!)}, ${seconds(middle(lengths))} in the middle`
    },
    {
      label: 'Speech under captions',
      value: figures.speechCovered === null ? 'not known' : percent(figures.speechCovered)
    },
    {
      label: 'Contrast',
      value:
        ratios[0] === undefined
          ? 'not measured'
          : `${ratios[0].toFixed(1)} : 1 at worst, ${middle(ratios).toFixed(1)} : 1 in the middle`
    }
  ];
  return [
    { kind: 'facts', name: 'The track', facts },
    ...(sinceDraft === null ? [] : [sinceDraftFacts(sinceDraft)]),
    { kind: 'bars', name: 'Durations, in seconds', bars: figures.durations.map(barOf) },
    { kind: 'bars', name: 'Gaps, in seconds', bars: figures.gaps.map(barOf) }
  ];
}

const barOf = ({ fromMs, toMs, count, isOutside }: Column) => {
  const [from, to] = [fromMs / 1000, toMs / 1000];
  const label = from === -Infinity ? 'overlapping' : to === Infinity ? `${from} or more` : `${from} to ${to}`;
  return { label, count, isOutside };
};

function sinceDraftFacts({ words, cues }: ChangesSince): Part {
  const { substitutions, insertions, deletions, wordErrorRate } = words;
  return {
    kind: 'facts',
    name: 'Since the draft',
    facts: [
      {
        label: 'Words',
        value: `${substitutions} changed, ${deletions} put in, ${insertions} taken out: a word error rate of ${percent(wordErrorRate)}`
      },
      {
        label: 'Cues',
        value: `${cues.made} made, ${cues.gone} gone, ${cues.timed} timed anew, ${cues.same} with the draft’s times`
      }
    ]
  };
}

function handedOverTable({ handedOver, fileVersion }: ReportRequest): Part {
  return {
    kind: 'table',
    name: 'Files, with the SHA-256 of each',
    columns: [
      { head: 'File', share: 28 },
      { head: 'Version', share: 20 },
      { head: 'When', share: 20 },
      { head: 'Hash', share: 32 }
    ],
    rows: handedOver.flatMap(({ version, files }) =>
      files.map(({ name, bytes, sha256, atMs }) => [
        `${name}, ${plural(bytes, 'byte')}`,
        version === fileVersion ? `${version}, the one checked` : `${version}, not the one checked`,
        dayAndTime(atMs),
        sha256
      ])
    )
  };
}

function checkTable(
  group: Check['group'],
  { sheet, track, report }: ReportRequest,
  { left, stands }: { readonly left: readonly Finding[]; readonly stands: readonly Finding[] }
): Part {
  const notChecked = new Set(report.notChecked.map(({ rule }) => rule));
  const countIn = (list: readonly Finding[], { id }: Check): string =>
    String(list.filter(({ rule }) => rule === id).length);
  return {
    kind: 'table',
    name: GROUP_NAMES[group],
    columns: [
      { head: 'Check', share: 40 },
      { head: 'Counts as', share: 14 },
      { head: 'Numbers', share: 22 },
      { head: 'Left', share: 12 },
      { head: 'Let stand', share: 12 }
    ],
    rows: CHECKS.filter((check) => check.group === group).map((check) => {
      const severity = severityOf(check, sheet);
      const values = numbersOf(check, sheet, track);
      const numbers = Object.entries(check.numbers ?? {}).map(([name, { unit }]) => `${values[name]} ${unit}`);
      const isMeant = severity !== 'off' && (track.sourceTrackId !== null || check.needs?.includes('source') !== true);
      const isMade = isMeant && !notChecked.has(check.id);
      return [
        check.title,
        severity === 'off' ? 'off' : SEVERITY_NAMES[severity].toLowerCase(),
        numbers.join(', '),
        isMade ? countIn(left, check) : isMeant ? 'not checked' : '–',
        isMade ? countIn(stands, check) : '–'
      ];
    })
  };
}

const notCheckedFacts = ({ notChecked }: Report): Part => ({
  kind: 'facts',
  name: 'Could not be checked',
  facts: notChecked.map(({ rule, needs }) => ({ label: findCheck(rule)!.title, value: MISSING[needs] }))
});
