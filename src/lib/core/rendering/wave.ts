/** The waveform that takes the place of a picture where there is only sound: page by page, the played part brighter. */
import { levelsBetween } from '../audio';
import type { PathMaker, PictureContext } from '../layout';
import { luminanceOf } from '../light';

const PAGE_MS = 10_000;
const BARS = 80;
const BAR_MS = PAGE_MS / BARS;
/** Shares of the picture: where the middle of the bars is, above the captions, and how high the loudest is. */
const MIDDLE = 0.42;
const HIGHEST = 0.44;
const MARGIN = 0.08;
const OPACITY = { played: 0.8, ahead: 0.28 };

/** Equal states are drawn alike. */
export interface WaveState {
  readonly page: number;
  /** So many bars of it have been played. */
  readonly played: number;
}

export const waveAt = (ms: number): WaveState => ({
  page: Math.floor(ms / PAGE_MS),
  played: Math.floor((ms % PAGE_MS) / BAR_MS)
});

interface Wave {
  readonly size: { readonly width: number; readonly height: number };
  /** As `LevelMeter` gives them. */
  readonly levels: Uint8Array;
  /** What it is drawn on. */
  readonly color: string;
}

export function paintWave(
  context: PictureContext,
  newPath: PathMaker,
  { size: { width, height }, levels, color }: Wave,
  { page, played }: WaveState
): void {
  const paths = { played: newPath(), ahead: newPath() };
  const stepPx = (width * (1 - 2 * MARGIN)) / BARS;
  for (let bar = 0; bar < BARS; bar++) {
    const fromMs = page * PAGE_MS + bar * BAR_MS;
    const { least, greatest } = levelsBetween(levels, fromMs, fromMs + BAR_MS);
    // By its root, so that quiet speech is seen beside loud.
    const loudness = Math.sqrt(Math.max(greatest, -least));
    const barHeight = Math.max(stepPx * 0.5, loudness * HIGHEST * height);
    const path = bar < played ? paths.played : paths.ahead;
    path.roundRect(
      width * MARGIN + (bar + 0.25) * stepPx,
      height * MIDDLE - barHeight / 2,
      stepPx * 0.5,
      barHeight,
      stepPx * 0.25
    );
  }
  context.fillStyle = luminanceOf(color) > 0.3 ? '#101410' : '#ffffff';
  for (const [part, path] of Object.entries(paths)) {
    context.globalAlpha = OPACITY[part as keyof typeof OPACITY];
    context.fill(path);
  }
  context.globalAlpha = 1;
}
