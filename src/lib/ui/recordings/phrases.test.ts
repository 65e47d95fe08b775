import { expect, test } from 'vitest';
import { leftOnTrack, phrases } from './phrases';

test.each([
  [{ state: 'ready', correctedCount: 0 }, 'Ready'],
  [{ state: 'handed over', correctedCount: 3, doubtCount: 9 }, 'Ready'],
  [{ state: 'draft', correctedCount: 0 }, 'Draft, nothing corrected yet'],
  [{ state: 'draft', correctedCount: 4 }, 'Doubts not looked through'],
  [{ state: 'draft', correctedCount: 4, findingCount: 2 }, 'Doubts not looked through, 2 findings'],
  [{ state: 'draft', correctedCount: 0, doubtCount: 1, findingCount: 0 }, '1 doubt'],
  [{ state: 'draft', correctedCount: 0, doubtCount: 12, findingCount: 1 }, '12 doubts, 1 finding'],
  [{ state: 'draft', correctedCount: 4, doubtCount: 0, findingCount: 0 }, 'No doubts, no findings']
] as const)('what is left on %j is “%s”', (track, left) => {
  expect(leftOnTrack(track)).toBe(left);
});

test('an upload says how far it is and what to do', () => {
  const { state } = phrases.upload;
  expect(state({ state: 'waiting', progress: 0 })).toBe('Waiting');
  expect(state({ state: 'sending', progress: 0.426 })).toBe('43 %');
  expect(state({ state: 'sending', progress: 1 })).toBe('Reading it');
  expect(state({ state: 'broken', progress: 0.5 })).toBe('50 %, connection lost, trying again');
  expect(state({ state: 'interrupted', progress: 0.5 })).toBe('Stopped at 50 %: choose the same file again to go on');
});
