/** Trims: a recording shortened and put in another order by its text; where its time plays, what it sounds like, what becomes of captions. */
export { BLOCK_MS, BLOCK_RATE_HZ, BLOCK_SAMPLES, blockChannels, blocksOf, readBlocks } from './blocks';
export { heardStretches, trimTrack, type TrimmedTrack } from './captions';
export {
  completeTrimCommand,
  labelTrimCommands,
  newIdsOfTrim,
  resolveTrimCommands,
  trimCommandSchema,
  type PlainPiece,
  type TrimCommand,
  type TrimProblem
} from './commands';
export {
  CUT_LIST_FORMATS,
  cutListRemarks,
  formatCutList,
  type CutListFormat,
  type CutListOptions,
  type CutListRemark
} from './cut-list';
export { CrossingMeter, quietEdge, spansOfWords, type CutSound } from './edges';
export {
  findHesitations,
  HESITATION_KINDS,
  isSteadyVoice,
  untoldSpeech,
  USUAL_PHRASES,
  type Hesitation,
  type HesitationKind
} from './hesitations';
export { JOIN_FAULTS, judgeJoins, type BetterEdge, type JoinEvidence, type JoinFault, type JudgedJoin } from './joins';
export { joinsOf, mapOf, type Join, type LaidPiece, type TrimMap } from './map';
export { mixSound, planSound, sourcesFor, type SoundPlan, type SourceRange } from './mix';
export { clearOfWords, findPauses, PAUSE_DEFAULTS, pauseToTake, type PauseOptions } from './pauses';
export { passageOf } from './passage';
export type { PieceSpan } from './pieces';
export { Room, roomSpans } from './room';
export { trimInstants, trimLevels, trimSpans, trimSpeech } from './seen';
export {
  findBrokenTrim,
  makeStretch,
  makeTrim,
  MOST_FADE_MS,
  MOST_PAUSE_MS,
  playedMs,
  trimChangesSchema,
  trimSchema,
  trimShape,
  USUAL_FADE_MS,
  type Pause,
  type Piece,
  type Stretch,
  type Trim,
  type TrimChange
} from './trim';
