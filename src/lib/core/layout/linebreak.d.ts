declare module 'linebreak' {
  /** Where a line may be broken (UAX #14), in UTF-16 units, one after the other; the end is the last. */
  export default class LineBreaker {
    constructor(text: string);
    nextBreak(): { readonly position: number; readonly required: boolean } | null;
  }
}
