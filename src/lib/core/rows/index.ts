/**
 * The trellis: where its rows break, by speech map and zoom alone, and how words and cues lie on them so that none
 * overprint.
 */
export { laneSpans, layWords, type LanedSpan, type LaidWord, type LaneWord, type WordLaneOptions } from './lanes';
export { breakIntoRows, densityOf, unfold, type Density, type Row, type RowsInput } from './rows';
