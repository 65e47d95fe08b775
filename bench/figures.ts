/** Of measured values; `NaN` for none. */
const quantile = (values: readonly number[], share: number): number =>
  values.toSorted((one, other) => one - other)[Math.floor(values.length * share)] ?? NaN;

export const median = (values: readonly number[]): number => quantile(values, 0.5);
export const at95 = (values: readonly number[]): number => quantile(values, 0.95);
