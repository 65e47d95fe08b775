/** WebVTT (.vtt), https://www.w3.org/TR/webvtt1/: cues with settings and voices; styles, regions and notes are kept as text. */
export { formatWebVtt } from './format';
export { parseWebVtt } from './parse';
export { cueSettings, placementFromSettings, placementSettings } from './settings';
