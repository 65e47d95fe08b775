/** The package brings no types. */
declare module 'node-webvtt' {
  const webvtt: { parse(content: string): unknown };
  export default webvtt;
}
