/**
 * Changes: the small closed set of what can be done to any document with a log. Commands (`core/commands`) are resolved
 * to them once; the log keeps and replays them.
 */
export { applyChanges, type AppliedChanges, type ChangeProblem } from './apply';
export { changesBetween } from './between';
export {
  changesSchemaOf,
  MOST_ITEMS,
  type ChangeOf,
  type ItemSet,
  type ListItem,
  type Shape,
  type Stretch
} from './change';
