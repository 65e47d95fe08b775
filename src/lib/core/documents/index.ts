/** Documents: what has a log. Each kind says how it is opened, commanded and changed; the log itself knows none of them. */
export type { DocumentKind, DocumentProblem, DoneOn, RaisedLog } from './kind';
export { trackKind } from './track';
export { trimKind } from './trim';
