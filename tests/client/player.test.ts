import { toSpan } from '../../src/lib/core/time';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { Player } from '../../src/lib/client/player.svelte';

/** As much of a media element as the player uses. */
class FakeMedia extends EventTarget {
  currentTime = 0;
  readyState = 4;
  playbackRate = 1;
  preservesPitch = false;
  play(): Promise<void> {
    this.dispatchEvent(new Event('play'));
    return Promise.resolve();
  }
  pause(): void {
    this.dispatchEvent(new Event('pause'));
  }
}

let frames: (() => void)[] = [];
/** Runs the frames that were asked for up to now. */
function nextFrame(): void {
  const due = frames;
  frames = [];
  due.forEach((frame) => frame());
}
beforeEach(() => {
  frames = [];
  vi.stubGlobal('requestAnimationFrame', (frame: () => void) => frames.push(frame));
  vi.stubGlobal('cancelAnimationFrame', () => (frames = []));
});
afterEach(() => void vi.unstubAllGlobals());

function attached() {
  const player = new Player();
  const media = new FakeMedia();
  const detach = player.attach(media as unknown as HTMLMediaElement);
  const heard: number[] = [];
  player.onFrame((nowMs) => heard.push(nowMs));
  nextFrame();
  return { player, media, detach, heard };
}

describe('the player', () => {
  test('tells each place once a frame while it plays, and asks for no frames while it rests', () => {
    const { player, media, heard } = attached();
    expect(frames).toHaveLength(0);
    player.toggle();
    media.currentTime = 0.5;
    nextFrame();
    nextFrame();
    media.currentTime = 1;
    nextFrame();
    expect(heard).toEqual([0, 0, 500, 1000]);
    player.toggle();
    expect(player.isPlaying).toBe(false);
    nextFrame();
    expect(frames).toHaveLength(0);
  });

  test('a seek at rest is shown in one frame; it never goes before the start', () => {
    const { player, media, heard } = attached();
    player.seek(2500);
    nextFrame();
    player.skip(-9000);
    nextFrame();
    expect(media.currentTime).toBe(0);
    expect(heard.slice(2)).toEqual([2500, 0]);
    expect(frames).toHaveLength(0);
  });

  test('a seek before the media is there holds, and is done when it comes', () => {
    const player = new Player();
    const media = new FakeMedia();
    media.readyState = 0;
    player.seek(700);
    expect(player.nowMs).toBe(700);
    player.attach(media as unknown as HTMLMediaElement);
    player.seek(900);
    expect([player.nowMs, media.currentTime]).toEqual([900, 0]);
    media.dispatchEvent(new Event('loadedmetadata'));
    expect([player.nowMs, media.currentTime]).toEqual([900, 0.9]);
  });

  test('a loop begins again at its end, and only while it plays', () => {
    const { player, media } = attached();
    player.setLoop(toSpan({ startMs: 1000, endMs: 2000 }));
    expect(media.currentTime).toBe(1);
    player.toggle();
    media.currentTime = 2.01;
    nextFrame();
    expect(media.currentTime).toBe(1);
    player.setLoop(null);
    media.currentTime = 2.5;
    nextFrame();
    expect(media.currentTime).toBe(2.5);
  });

  test('speeds keep to half and double in tenths, the pitch is kept, and a new element takes both over', () => {
    const { player, media, detach } = attached();
    expect(media.preservesPitch).toBe(true);
    for (const [asked, kept] of [
      [0.1, 0.5],
      [1.2500001, 1.3],
      [9, 2]
    ] as const) {
      player.setRate(asked);
      expect([player.rate, media.playbackRate]).toEqual([kept, kept]);
    }
    player.toggle();
    detach();
    expect(player.isPlaying).toBe(false);
    const next = new FakeMedia();
    player.attach(next as unknown as HTMLMediaElement);
    expect(next.playbackRate).toBe(2);
    media.dispatchEvent(new Event('play'));
    expect(player.isPlaying).toBe(false);
  });

  test('says so when the recording cannot be played', () => {
    const { player, media } = attached();
    media.dispatchEvent(new Event('error'));
    expect(player.failure).toMatch(/cannot be played/);
  });
});
