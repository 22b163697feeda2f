import { describe, expect, it } from 'vitest';
import { readConfig } from '../src/config.ts';
import { openBench } from './bench.ts';

describe('readConfig', () => {
  it('stays on this machine unless told otherwise', () => {
    expect(readConfig({}, null)).toMatchObject({ host: '127.0.0.1', port: 4640, passphrase: null });
  });
  it('refuses a wider bind without a passphrase, and a port that is none', () => {
    expect(() => readConfig({ HOST: '0.0.0.0' }, null)).toThrow(
      /Set LUCKY_NEEDLE_PASSPHRASE to at least 12 characters/,
    );
    expect(() => readConfig({ HOST: '0.0.0.0', LUCKY_NEEDLE_PASSPHRASE: 'short' }, null)).toThrow(
      /12 characters/,
    );
    expect(() => readConfig({ PORT: 'eighty' }, null)).toThrow(/PORT must be a whole number.*"eighty"/);
  });
});

describe('a passphrase', () => {
  it('is asked of every request, and compared whole', async () => {
    const bench = await openBench({ passphrase: 'river and stone' });
    const basic = (text: string) => ({
      Authorization: `Basic ${Buffer.from(`maker:${text}`).toString('base64')}`,
    });
    const without = await bench.call('GET', '/api/gadgets');
    expect(without.status).toBe(401);
    expect(without.headers.get('www-authenticate')).toContain('Basic');
    expect((await bench.call('GET', '/api/gadgets', undefined, basic('river and ston'))).status).toBe(401);
    expect((await bench.call('GET', '/api/gadgets', undefined, basic('river and stone'))).status).toBe(200);
    await bench.close();
  });
});
