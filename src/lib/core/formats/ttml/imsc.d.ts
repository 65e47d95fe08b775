declare module 'imsc/src/main/js/doc.js' {
  interface Content {
    readonly kind: string;
    readonly begin: number;
    readonly end: number;
    readonly text?: string;
    readonly contents?: readonly Content[];
  }
  type Told = (message: string) => void;
  /** Reads a document; what is wrong with it is told. */
  export function fromXML(
    xml: string,
    errorHandler: { readonly warn: Told; readonly error: Told; readonly fatal: Told }
  ): { readonly body: Content; getMediaTimeEvents(): readonly number[] } | null;
}
