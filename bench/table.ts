/** One measurement; `budget` is the most it may be, in its unit. */
export interface Row {
  readonly what: string;
  readonly value: number | string;
  readonly unit?: string;
  readonly budget?: number;
}

export function formatTable(rows: readonly Row[]): string {
  const shown = rows.map((row) => ({
    what: row.what,
    value: typeof row.value === 'string' ? row.value : `${row.value.toFixed(1)} ${row.unit ?? ''}`,
    budget:
      row.budget === undefined
        ? ''
        : `≤ ${row.budget} ${row.unit ?? ''}${typeof row.value === 'number' && row.value > row.budget ? '  OVER' : ''}`
  }));
  const width = Math.max(...shown.map((row) => row.what.length));
  return shown.map((row) => `${row.what.padEnd(width)}  ${row.value.padStart(18)}  ${row.budget}`).join('\n');
}
