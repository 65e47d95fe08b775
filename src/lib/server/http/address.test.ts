import { expect, test } from 'vitest';
import { readAddress } from './address';

test('with nothing set it is loopback, port 4173', () => {
  expect(readAddress({})).toEqual({ HOST: '127.0.0.1', PORT: 4173 });
});

test.each(['0.0.0.0', '192.168.1.5', 'captions.lan', '::'])('%s takes a passphrase', (HOST) => {
  expect(readAddress({ HOST })).toContain('without a passphrase');
  expect(readAddress({ HOST, VINETAP_PASSPHRASE: 'long enough' })).toMatchObject({ HOST });
  expect(readAddress({ HOST, VINETAP_PASSPHRASE: 'short' })).toContain('too short');
});

test('what is no port is told', () => {
  expect(readAddress({ PORT: 'many' })).toContain('PORT');
});
