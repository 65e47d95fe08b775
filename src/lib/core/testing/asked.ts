/** Commands as a test writes them, with ids and times that are no more than strings and numbers. */
import { clientCommandSchema, commandSchema, type ClientCommand, type Command, type PlainCommand } from '../commands';

export const asked = (plain: PlainCommand): Command => commandSchema.parse(plain);

/** Of those that a caller may send. */
export const askedByClient = (plain: PlainCommand): ClientCommand => clientCommandSchema.parse(plain);
