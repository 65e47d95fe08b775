/** Cents of a currency (ISO 4217) as they are written. */
export const formatMoney = (cents: number, currency: string): string =>
  new Intl.NumberFormat('en', { style: 'currency', currency }).format(cents / 100);
