/** The whole interface runs in the browser: it works on the track in memory. */
export const ssr = false;
