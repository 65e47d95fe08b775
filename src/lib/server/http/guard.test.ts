import { describe, expect, test } from 'vitest';
import { findRefusal } from './guard';

const ask = (method: string, headers: Record<string, string>, origin: string | null = null): number =>
  findRefusal({ method, headers }, { origin })?.status ?? 200;

describe('names the server answers to', () => {
  test.each(['localhost', 'LOCALHOST:4173', '127.0.0.1:4173', '[::1]:9'])('%s', (host) => {
    expect(ask('GET', { host })).toBe(200);
  });
  test.each(['evil.example', 'localhost.evil.example', '127.0.0.1.evil.example', '127.0.0.1:4173:80', '', '127.0.0.2'])(
    'not “%s”',
    (host) => {
      expect(ask('GET', { host })).toBe(421);
    }
  );
  test('a configured origin with its port, and no other port of it', () => {
    expect(ask('GET', { host: 'captions.lan:4173' }, 'http://captions.lan:4173')).toBe(200);
    expect(ask('GET', { host: 'Captions.lan:4173' }, 'http://captions.lan:4173')).toBe(200);
    expect(ask('GET', { host: 'captions.lan:80' }, 'http://captions.lan:4173')).toBe(421);
  });
});

describe('pages that may change something', () => {
  const host = '127.0.0.1:4173';
  test('its own, and programs that are no page', () => {
    expect(ask('POST', { host })).toBe(200);
    expect(ask('POST', { host, origin: `http://${host}`, 'sec-fetch-site': 'same-origin' })).toBe(200);
    expect(ask('DELETE', { host, 'sec-fetch-site': 'none' })).toBe(200);
  });
  test('no others: another site, another port, a sandboxed frame, a form posted from elsewhere', () => {
    expect(ask('POST', { host, origin: 'http://evil.example' })).toBe(403);
    expect(ask('PATCH', { host, origin: 'http://127.0.0.1:9' })).toBe(403);
    expect(ask('POST', { host, origin: 'null' })).toBe(403);
    expect(ask('POST', { host, 'sec-fetch-site': 'cross-site' })).toBe(403);
    expect(ask('DELETE', { host, 'sec-fetch-site': 'same-site' })).toBe(403);
  });
  test('reading stays open to them: what they may see of it is the browser’s to say', () => {
    expect(ask('GET', { host, origin: 'http://evil.example', 'sec-fetch-site': 'cross-site' })).toBe(200);
  });
});
