/** The head of a WAVE file (RIFF, a `fmt ` of 16 bytes, PCM) of 16-bit mono samples. */

const SAMPLE_BYTES = 2;

export const WAVE_HEAD_BYTES = 44;

/** With so many bytes of samples behind it: below 4 GB. */
export function waveHead(dataBytes: number, rateHz: number): Uint8Array {
  const head = new DataView(new ArrayBuffer(WAVE_HEAD_BYTES));
  const write = (at: number, text: string): void =>
    [...text].forEach((letter, offset) => head.setUint8(at + offset, letter.charCodeAt(0)));
  write(0, 'RIFF');
  head.setUint32(4, WAVE_HEAD_BYTES - 8 + dataBytes, true);
  write(8, 'WAVEfmt ');
  head.setUint32(16, 16, true);
  head.setUint16(20, 1, true);
  head.setUint16(22, 1, true);
  head.setUint32(24, rateHz, true);
  head.setUint32(28, rateHz * SAMPLE_BYTES, true);
  head.setUint16(32, SAMPLE_BYTES, true);
  head.setUint16(34, SAMPLE_BYTES * 8, true);
  write(36, 'data');
  head.setUint32(40, dataBytes, true);
  return new Uint8Array(head.buffer);
}
