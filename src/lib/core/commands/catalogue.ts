/** Every command there is. A new one is defined in the file of its family and stands in that file's list. */
import { z } from 'zod';
import type { CommandDefinition } from './command';
import { cueCommands } from './cues';
import { hearingCommands } from './hearing';
import { timingCommands } from './timing';
import { trackCommands } from './track';
import { translatingCommands } from './translating';
import { wordCommands } from './words';

const CLIENT_COMMANDS = [
  ...wordCommands,
  ...cueCommands,
  ...timingCommands,
  ...trackCommands,
  ...translatingCommands
] as const;
const COMMANDS = [...CLIENT_COMMANDS, ...hearingCommands] as const;

type SchemasOf<T extends readonly { readonly schema: z.ZodType }[]> = { readonly [K in keyof T]: T[K]['schema'] };
type CommandsOf<T extends readonly { readonly schema: z.ZodType }[]> = Readonly<z.infer<SchemasOf<T>[number]>>;

export type ClientCommand = CommandsOf<typeof CLIENT_COMMANDS>;
export type Command = CommandsOf<typeof COMMANDS>;
/** A command before it is parsed, with plain strings and numbers for ids and times. */
export type PlainCommand = Readonly<z.input<SchemasOf<typeof COMMANDS>[number]>>;
export type CommandOf<T extends Command['type']> = Extract<Command, { readonly type: T }>;

const unionOf = <T extends readonly CommandDefinition<never>[]>(definitions: T) =>
  z.discriminatedUnion('type', definitions.map(({ schema }) => schema) as never);

/** What a caller may send. */
export const clientCommandSchema = unionOf(CLIENT_COMMANDS as never) as unknown as z.ZodType<
  ClientCommand,
  PlainCommand
>;
/** What stands in the log. */
export const commandSchema = unionOf(COMMANDS as never) as unknown as z.ZodType<Command, PlainCommand>;

// Safe, because a definition is looked up by the type of the command it is given.
const definitions = new Map(
  COMMANDS.map((definition) => [definition.schema.shape.type.value, definition as unknown as CommandDefinition])
);
export const COMMAND_TYPES: readonly Command['type'][] = COMMANDS.map(({ schema }) => schema.shape.type.value);

/** How a command of this type is defined. */
export function definitionOf(command: Command): CommandDefinition {
  const definition = definitions.get(command.type);
  if (definition === undefined) throw new Error(`no definition of the command ${command.type}`);
  return definition;
}
