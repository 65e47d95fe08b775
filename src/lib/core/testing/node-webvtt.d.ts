/** The package brings no types. */
declare module 'node-webvtt' {
  interface ParsedWebVtt {
    /** Times in seconds. */
    readonly cues: readonly { readonly start: number; readonly end: number; readonly text: string }[];
  }
  const webvtt: { parse(content: string, options?: { readonly strict?: boolean }): ParsedWebVtt };
  export default webvtt;
}
