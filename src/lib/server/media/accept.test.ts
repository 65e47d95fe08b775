import { describe, expect, test } from 'vitest';
import { ApiProblem } from '../problem';
import { acceptMedia } from './accept';
import type { ProbeResult } from './ffmpeg';

type Stream = ProbeResult['streams'][number];
const sound = (codec: string, more: Partial<Stream> = {}): Stream => ({
  index: 0,
  codec_type: 'audio',
  codec_name: codec,
  channels: 2,
  sample_rate: 48_000,
  duration: 60,
  ...more
});
const picture = (codec: string, more: Partial<Stream> = {}): Stream => ({
  index: 1,
  codec_type: 'video',
  codec_name: codec,
  pix_fmt: 'yuv420p',
  width: 1280,
  height: 720,
  avg_frame_rate: '30000/1001',
  ...more
});
const file = (format: string, ...streams: Stream[]): ProbeResult => ({
  format: { format_name: format, duration: 60 },
  streams
});

const reason = (probed: ProbeResult): string => {
  try {
    acceptMedia(probed);
  } catch (error) {
    if (error instanceof ApiProblem) return `${error.status} ${error.code}: ${error.message}`;
    throw error;
  }
  return 'taken';
};

describe('what is taken', () => {
  test.each([
    ['wav', [sound('pcm_s16le')], 'audio/wav'],
    ['mp3', [sound('mp3')], 'audio/mpeg'],
    ['mov,mp4,m4a,3gp,3g2,mj2', [sound('aac')], 'audio/mp4'],
    ['mov,mp4,m4a,3gp,3g2,mj2', [picture('h264'), sound('aac')], 'video/mp4'],
    ['matroska,webm', [picture('vp9'), sound('opus')], 'video/webm'],
    ['ogg', [sound('opus')], 'audio/ogg']
  ])('%s', (format, streams, mime) => {
    expect(acceptMedia(file(format, ...streams))).toMatchObject({ needsProxy: false, media: { mime } });
  });

  test('its facts: the frame rate as a number, the longest of the lengths it claims', () => {
    const { durationMs, media } = acceptMedia(
      file('mov,mp4,m4a,3gp,3g2,mj2', picture('h264'), sound('aac', { duration: 61.5 }))
    );
    expect(durationMs).toBe(61_500);
    expect(media).toMatchObject({
      hasVideo: true,
      width: 1280,
      height: 720,
      frameRate: 29.97,
      channels: 2,
      sampleRate: 48_000
    });
  });

  test('a cover in a song is no picture', () => {
    const { media } = acceptMedia(file('mp3', sound('mp3'), picture('mjpeg', { disposition: { attached_pic: 1 } })));
    expect(media).toMatchObject({ hasVideo: false, mime: 'audio/mpeg', width: null, frameRate: null });
  });
});

describe('what browsers do not play is taken, and needs a copy', () => {
  const mp4 = 'mov,mp4,m4a,3gp,3g2,mj2';
  test.each<[string, ProbeResult, string]>([
    ['another container', file('avi', picture('h264'), sound('mp3')), 'video/mp4'],
    ['Matroska that is no WebM', file('matroska,webm', picture('h264'), sound('aac')), 'video/mp4'],
    ['sound of another kind', file(mp4, sound('ac3')), 'audio/mp4'],
    ['a picture of another kind', file(mp4, picture('mpeg2video'), sound('aac')), 'video/mp4'],
    ['HEVC, whose sound would play without the picture', file(mp4, picture('hevc'), sound('aac')), 'video/mp4'],
    ['H.264 of ten bits', file(mp4, picture('h264', { pix_fmt: 'yuv420p10le' }), sound('aac')), 'video/mp4']
  ])('%s', (_, probed, mime) => {
    expect(acceptMedia(probed)).toMatchObject({ needsProxy: true, media: { mime } });
  });
});

describe('what is not taken says why and what to do', () => {
  const mp4 = 'mov,mp4,m4a,3gp,3g2,mj2';
  test.each<[string, ProbeResult, RegExp]>([
    ['no sound', file(mp4, picture('h264')), /no sound/],
    ['too long', { format: { format_name: 'mp3', duration: 90_000 }, streams: [sound('mp3')] }, /25 hours.*24 hours/],
    [
      'too short',
      { format: { format_name: 'wav', duration: 0.2 }, streams: [sound('pcm_s16le', { duration: 0.2 })] },
      /200 ms/
    ],
    ['too many channels', file('wav', sound('pcm_s16le', { channels: 32 })), /32 channels/],
    ['too large a picture', file(mp4, picture('h264', { width: 9000 }), sound('aac')), /9000/]
  ])('%s', (_, probed, why) => {
    expect(reason(probed)).toMatch(/^422 unsupported_media: /);
    expect(reason(probed)).toMatch(why);
  });
});
