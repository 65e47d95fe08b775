/** A track at work without a page: its desk over a recording of a minute, a player without media, and a server that answers. */
import { vi } from 'vitest';
import type { Track } from '../../src/lib/core/track';
import { asTrackId } from '../../src/lib/core/id';
import { wholeMs } from '../../src/lib/core/time';
import { FakeServer, installBrowser } from './browser';

const server = new FakeServer();
installBrowser(server);
vi.stubGlobal('matchMedia', () => ({ matches: false, addEventListener: () => undefined }));
vi.stubGlobal('requestAnimationFrame', () => 0);
vi.stubGlobal('cancelAnimationFrame', () => undefined);
const { TrackSession } = await import('../../src/lib/client/session/track-session.svelte');
const { RecordingView } = await import('../../src/lib/client/recording-view.svelte');
const { TrackDesk } = await import('../../src/lib/client/track-desk.svelte');
export const { preferences } = await import('../../src/lib/client/preferences.svelte');

export type Desk = InstanceType<typeof TrackDesk>;

const open: Desk[] = [];

export async function openDesk(track: Track, { shotsMs = [] as readonly number[] } = {}): Promise<Desk> {
  const on = new RecordingView({
    ...{ id: 'r', title: 'Merrowby clock', durationMs: 60_000, state: 'ready', hasSpeechMap: true, createdAtMs: 1 },
    media: { mime: 'video/mp4', hasVideo: true, frameRate: 25, channels: 1, sampleRate: 48_000, bytes: 1 },
    tracks: []
  });
  on.shotsMs = shotsMs.map(wholeMs);
  const desk = new TrackDesk(on, await TrackSession.open(asTrackId(server.put(track))));
  open.push(desk);
  return desk;
}

export function closeDesks(): void {
  for (const desk of open.splice(0)) desk.close();
  preferences.set({ ripple: false, nudge: 'frame', readPanel: 'doubts' });
}
