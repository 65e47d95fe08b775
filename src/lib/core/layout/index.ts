/** Where on the picture a cue is drawn: one answer for the preview and for whatever else draws it. */
export { placeCue, SAFE_MARGIN, type PlacedCue } from './picture';
