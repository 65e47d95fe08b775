/** What a translation owes its source. */
import { countCharacters, isSameLanguage, lookUp, plainLines, type Cue, type Track } from '../track';
import type { CueId } from '../id';
import { rowsOf, termsNotUsed, type Row } from '../translating';
import { defineCheck, type Check } from './check';

/** What the source shows where this cue stands. */
function sourceText({ sourceCueIds }: Cue, source: Track): string {
  const { findCue } = lookUp(source);
  return sourceCueIds
    .flatMap((id) => {
      const cue = findCue(id);
      return cue === undefined ? [] : plainLines(source, cue);
    })
    .join(' ');
}

/** The row of each cue; by the tracks looked at last. */
let known: { readonly track: Track; readonly source: Track; readonly rows: ReadonlyMap<CueId, Row> } | null = null;

function rowsByCue(track: Track, source: Track): ReadonlyMap<CueId, Row> {
  if (known?.track === track && known.source === source) return known.rows;
  const rows = new Map(rowsOf(track, source).flatMap((row) => row.cues.map(({ id }): [CueId, Row] => [id, row])));
  known = { track, source, rows };
  return rows;
}

const numbersIn = (text: string): readonly string[] =>
  text.match(/\d+(?:[.,:]\d+)*/g)?.map((one) => one.replaceAll(/[.,:]/g, '')) ?? [];

export const translationChecks: readonly Check[] = [
  defineCheck({
    id: 'untranslated',
    group: 'words',
    title: 'Not translated',
    needs: ['source'],
    severity: 'warning',
    look({ cue, text }, { knowledge, track }) {
      const source = sourceText(cue, knowledge.source!);
      return source !== '' &&
        source === text &&
        !isSameLanguage(track.language, knowledge.source!.language) &&
        /\s/.test(text)
        ? { message: 'The text is that of the source.' }
        : null;
    }
  }),
  defineCheck({
    id: 'source_changed',
    group: 'words',
    title: 'The source has changed since',
    needs: ['source'],
    severity: 'warning',
    look({ cue }, { knowledge, track }) {
      const said = rowsByCue(track, knowledge.source!).get(cue.id)?.changedFrom ?? null;
      return said === null ? null : { message: `The source said “${said}” when this was translated.` };
    }
  }),
  defineCheck({
    id: 'source_numbers',
    group: 'words',
    title: 'Numbers differ from the source',
    needs: ['source'],
    severity: 'warning',
    look({ cue, text }, { knowledge }) {
      const missing = numbersIn(sourceText(cue, knowledge.source!)).filter(
        (number) => !numbersIn(text).includes(number)
      );
      return missing.length === 0
        ? null
        : { message: `The source has ${missing.join(', ')}, the translation has not.` };
    }
  }),
  defineCheck({
    id: 'source_names',
    group: 'words',
    title: 'A name of the source is missing',
    needs: ['source'],
    severity: 'hint',
    look({ cue, text }, { knowledge, track }) {
      const source = sourceText(cue, knowledge.source!);
      const names = new Set([...knowledge.source!.names, ...track.names]);
      const missing = [...names].filter((name) => source.includes(name) && !text.includes(name));
      return missing.length === 0
        ? null
        : { message: `The source names ${missing.join(', ')}, the translation does not.` };
    }
  }),
  defineCheck({
    id: 'source_terms',
    group: 'words',
    title: 'A term of the house is not used',
    needs: ['source'],
    severity: 'hint',
    look({ cue }, { knowledge, track }) {
      const row = rowsByCue(track, knowledge.source!).get(cue.id);
      // Of a row of several cues it is told once.
      if (row?.cues[0]?.id !== cue.id) return null;
      return termsNotUsed(row.source, row.target, knowledge.terms).map(({ source, target }) => ({
        message: `The house translates “${source}” as “${target}”.`
      }));
    }
  }),
  defineCheck({
    id: 'source_room',
    group: 'words',
    title: 'Longer than the room that the source had',
    needs: ['source'],
    severity: 'warning',
    numbers: { most: { label: 'Longer than the source by', unit: '%', least: 0, most: 400, value: 60 } },
    look({ cue, text }, { knowledge, numbers: { most } }) {
      const length = countCharacters(sourceText(cue, knowledge.source!));
      const value = length === 0 ? 0 : Math.round((countCharacters(text) / length - 1) * 100);
      return value > most
        ? { value, limit: most, message: `${value} % longer than the source; the limit is ${most} %.` }
        : null;
    }
  })
];
