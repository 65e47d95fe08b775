import type { ListItem } from '../changes';
import type { Minting } from '../commands';
import type { Result } from '../result';

/** The document after some commands, with the changes they made and the changes that undo them. */
export interface DoneOn<D, Ch> {
  readonly document: D;
  readonly changes: readonly Ch[];
  readonly inverse: readonly Ch[];
}

/** Why something cannot be done to a document, with a code to branch on. */
export interface DocumentProblem {
  readonly code: string;
  readonly message: string;
}

/** A log of an earlier form, converted as far as it could be read; `problem` says why it ends there. */
export interface RaisedLog<D, C, Ch> {
  readonly document: D;
  readonly entries: readonly {
    readonly revision: number;
    readonly commands: readonly C[];
    readonly changes: readonly Ch[];
    readonly inverse: readonly Ch[];
  }[];
  readonly problem: unknown;
}

/** What a log needs to know about its documents `D`, their commands `C` and their changes `Ch`. */
export interface DocumentKind<D extends ListItem, C, Ch> {
  readonly name: string;
  /** The form in which its documents are kept now. */
  readonly form: number;
  /** Reads what was stored in any form, or came from outside, into the present form. Throws if it cannot be read. */
  readonly open: (form: number, raw: unknown) => D;
  readonly openCommands: (form: number, raw: unknown) => readonly C[];
  readonly openChanges: (raw: unknown) => readonly Ch[];
  /** Commands that wait to be sent: those a caller may send, one at least. */
  readonly openUnsent: (form: number, raw: unknown) => readonly C[];
  readonly raise: (
    draft: D,
    entries: readonly { readonly revision: number; readonly raw: unknown }[],
    snapshots: ReadonlyMap<number, D>
  ) => RaisedLog<D, C, Ch>;
  readonly complete: (document: D, command: C, minting: Minting) => C;
  readonly resolve: (document: D, commands: readonly C[]) => Result<DoneOn<D, Ch>, DocumentProblem>;
  readonly apply: (document: D, changes: readonly Ch[]) => Result<DoneOn<D, Ch>, DocumentProblem>;
  /** The changes that make one document of another. */
  readonly between: (before: D, after: D) => readonly Ch[];
  readonly label: (commands: readonly C[]) => string;
  /** Ids that a command brings and that the document has not. */
  readonly newIds: (document: D, command: C) => readonly string[];
  /** How many items it holds, about. */
  readonly sizeOf: (document: D) => number;
  readonly hasId: (document: D, id: string) => boolean;
  /** Ids of the items that changes take out and do not put in again. */
  readonly takenIds: (changes: readonly Ch[]) => readonly string[];
}
