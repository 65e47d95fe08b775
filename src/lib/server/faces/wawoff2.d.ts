declare module 'wawoff2/decompress.js' {
  /** A WOFF 2 file as SFNT. Rejects where it is none. */
  export default function decompress(bytes: Uint8Array): Promise<Uint8Array>;
}
