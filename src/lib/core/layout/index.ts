export { placeCue, SAFE_MARGIN, type PlacedCue } from './picture';
