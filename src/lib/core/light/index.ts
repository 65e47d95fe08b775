/** Whether captions can be read on their picture: its light behind them, and their contrast against it. */
export { channelsOf, contrastOf, contrastRatio, LEAST_CONTRAST, linearLight, luminanceOf } from './contrast';
