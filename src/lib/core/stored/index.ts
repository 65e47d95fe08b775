/**
 * The one door through which what was kept in an earlier form comes in: the database's entries and snapshots, and what
 * waits in browsers. A new form gets a number, a step here, and keeps a small log of the one before among the fixtures.
 */
export {
  openChanges,
  openCommands,
  openTrack,
  openUnsent,
  raiseLog,
  TRACK_FORM,
  type FormerEntry,
  type RaisedEntry
} from './door';
