import { expect, test } from 'vitest';
import { asTrackId } from '$lib/core/id';
import { trackLabels } from './track-labels';

const track = (id: string, language: string, title: string) => ({
  id: asTrackId(id),
  language,
  kind: 'captions',
  title
});

test('tracks of one language are told apart by their own names, else by a number', () => {
  const tracks = [
    track('a', 'en', 'Merrowby'),
    track('b', 'en', 'Merrowby'),
    track('c', 'en', 'For children'),
    track('d', 'it', 'Merrowby')
  ];
  expect([...trackLabels({ title: 'Merrowby', tracks }).values()]).toEqual([
    'English captions',
    'English captions (2)',
    'English captions, For children',
    'Italian captions'
  ]);
});
