import { isLoopback } from '../core/loopback.ts';
import { readOptions } from './options.ts';

test('defaults, environment, and options over both', () => {
  expect(readOptions(['demo'], {})).toMatchObject({
    command: 'demo',
    port: 4600,
    host: '127.0.0.1',
    databaseUrl: undefined,
  });
  expect(
    readOptions(['start'], {
      WINGMAN_PORT: '4700',
      WINGMAN_HOST: '0.0.0.0',
      WINGMAN_DATA: '/srv/w',
      DATABASE_URL: 'postgres://x',
    }),
  ).toMatchObject({ port: 4700, host: '0.0.0.0', data: '/srv/w', databaseUrl: 'postgres://x' });
  expect(
    readOptions(['demo', '--port', '4800', '--data=/tmp/d'], { WINGMAN_PORT: '4700' }),
  ).toMatchObject({ port: 4800, data: '/tmp/d' });
  expect(readOptions(['test', 'unit', 'src/core'], {}).rest).toEqual(['unit', 'src/core']);
});

test('a second player waits unless somebody says no, by the option or by the environment', () => {
  expect(readOptions(['start'], {}).standby).toBe(true);
  expect(readOptions(['start', '--no-standby', '--port', '4800'], {})).toMatchObject({
    standby: false,
    port: 4800,
  });
  expect(readOptions(['start'], { WINGMAN_STANDBY: '0' }).standby).toBe(false);
});

test('a certificate is given with its key, or not at all', () => {
  expect(readOptions(['start', '--cert', '/c.pem', '--key', '/k.pem'], {}).certificate).toEqual({
    cert: '/c.pem',
    key: '/k.pem',
  });
  expect(readOptions(['start'], {})).toMatchObject({ certificate: undefined, plain: false });
  expect(readOptions(['start', '--plain-http'], {}).plain).toBe(true);
  expect(() => readOptions(['start', '--cert', '/c.pem'], {})).toThrow('come together');
});

test.each([
  [[]],
  [['fly']],
  [['demo', '--port', 'x']],
  [['demo', '--port', '70000']],
  [['demo', '--port']],
  [['demo', '--colour', 'red']],
])('%j is refused with a sentence', (argv) => {
  expect(() => readOptions(argv, {})).toThrow(/Wingman|wingman|port/);
});

test('loopback addresses', () => {
  expect(['127.0.0.1', 'localhost', '::1'].every(isLoopback)).toBe(true);
  expect(isLoopback('0.0.0.0')).toBe(false);
});
