export { applyEdit, applyEdits, type Applied } from './apply';
export { completeEdit, newIdsOf } from './complete';
export {
  clientEditSchema,
  editSchema,
  EDIT_TYPES,
  labelEdits,
  type ClientEdit,
  type Edit,
  type EditOf,
  type EditProblem,
  type EditProblemCode
} from './edit';
export { rewriteRun, settleTimes, textTokens } from './rewrite';
