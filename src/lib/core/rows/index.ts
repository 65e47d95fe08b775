export { laneSpans, layWords, type Laned, type LaidWord, type LaneWord, type WordLaneOptions } from './lanes';
export { breakIntoRows, densityOf, unfold, type Density, type Row, type RowsInput } from './rows';
