import { z } from 'zod';
import { applyChanges, changesBetween } from '../changes';
import { ok } from '../result';
import {
  completeTrimCommand,
  labelTrimCommands,
  newIdsOfTrim,
  resolveTrimCommands,
  trimChangesSchema,
  trimCommandSchema,
  trimSchema,
  trimShape,
  type Trim,
  type TrimChange,
  type TrimCommand
} from '../trims';
import type { DocumentKind } from './kind';

/** The form in which trims are kept now: the first. */
const TRIM_FORM = 1;

function readForm<T>(form: number, schema: z.ZodType<T>, raw: unknown): T {
  if (form > TRIM_FORM)
    throw new Error(`kept by a newer version, in form ${form}: this one knows forms up to ${TRIM_FORM}`);
  return schema.parse(raw);
}

const commandsSchema = z.array(trimCommandSchema);

const apply: DocumentKind<Trim, TrimCommand, TrimChange>['apply'] = (document, changes) => {
  const done = applyChanges<Trim, typeof trimShape>(document, changes);
  return done.ok ? ok({ ...done.value, changes }) : done;
};

export const trimKind: DocumentKind<Trim, TrimCommand, TrimChange> = {
  name: 'trim',
  form: TRIM_FORM,
  open: (form, raw) => readForm(form, trimSchema, raw),
  openCommands: (form, raw) => readForm(form, commandsSchema, raw),
  openChanges: (raw) => trimChangesSchema.parse(raw),
  openUnsent: (form, raw) => readForm(form, commandsSchema.min(1), raw),
  // There is no earlier form.
  raise: (document) => ({ document, entries: [], problem: null }),
  complete: (_, command, { mint }) => completeTrimCommand(command, mint),
  resolve: (document, commands) => {
    const done = resolveTrimCommands(document, commands);
    return done.ok ? apply(document, changesBetween(document, done.value, trimShape)) : done;
  },
  apply,
  between: (before, after) => changesBetween(before, after, trimShape),
  label: labelTrimCommands,
  newIds: (_, command) => newIdsOfTrim(command),
  sizeOf: ({ pieces }) => pieces.length,
  hasId: (document, id) => document.pieces.some((piece) => piece.id === id),
  // Parts get ids of the command that made them, so that none comes twice.
  takenIds: () => []
};
