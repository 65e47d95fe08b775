/**
 * Commands: what somebody asks of a track, as data, a file a family. They are resolved once, here, to changes
 * (`core/changes`), which are what the log keeps and replays.
 */
export {
  clientCommandSchema,
  COMMAND_TYPES,
  commandSchema,
  type ClientCommand,
  type Command,
  type CommandOf,
  type PlainCommand
} from './catalogue';
export type { CommandProblem, CommandProblemCode, Minting } from './command';
export {
  completeCommand,
  labelCommands,
  newIdsOf,
  resolveCommands,
  tryCommands,
  type ResolvedCommands
} from './resolve';
export { rewriteRun, settleTimes, textTokens } from './rewrite';
