/** What is served without TLS: the page that takes a phone through trusting the house, and nothing else. */
import { createServer, request, type IncomingHttpHeaders, type Server } from 'node:http';
import { answerPlain } from './trust.ts';

let root: string | null = 'ROOT';
let server: Server;
let port = 0;
beforeAll(async () => {
  server = createServer((q, r) => answerPlain(root, q, r));
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  port = (server.address() as { port: number }).port;
});
afterAll(() => new Promise((done) => server.close(done)));
beforeEach(() => (root = 'ROOT'));

interface Got {
  status: number;
  headers: IncomingHttpHeaders;
  text: string;
}
const get = (path: string, method = 'GET', headers: Record<string, string> = {}): Promise<Got> =>
  new Promise((done, failed) => {
    const asked = request({ port, path, method, headers }, (response) => {
      let text = '';
      response.on('data', (d: Buffer) => (text += d.toString()));
      response.on('end', () =>
        done({ status: response.statusCode ?? 0, headers: response.headers, text }),
      );
    });
    asked.on('error', failed);
    asked.end();
  });

test('pages lead to the page of trust, and from there to where one wanted', async () => {
  const led = await get('/shows/a/page');
  expect([led.status, led.headers.location]).toEqual([302, '/trust?to=%2Fshows%2Fa%2Fpage']);
  const page = await get(led.headers.location ?? '');
  expect(page.text).toContain(`href="https://localhost:${port}/shows/a/page"`);
});

test.each(['//evil.example', 'https://evil.example', '/\\evil', '/"><script>', 'javascript:x'])(
  'it leads nowhere else: %s',
  async (to) => {
    const { text } = await get(`/trust?to=${encodeURIComponent(to)}`);
    expect(text).toContain(`href="https://localhost:${port}/"`);
    expect(text).not.toContain('evil');
  },
);

test('a host that is none comes back nowhere', async () => {
  const got = await get('/trust', 'GET', { host: 'a"><script>' });
  expect([got.status, got.text]).toEqual([400, 'No host was named.']);
});

test('the root is there to be taken; anything that is sent is refused', async () => {
  const got = await get('/trust/house.crt');
  expect([got.status, got.headers['content-type'], got.text]).toEqual([
    200,
    'application/x-x509-ca-cert',
    'ROOT',
  ]);
  const sent = await get('/api/auth/sign-in/email', 'POST');
  expect([sent.status, sent.text]).toEqual([403, expect.stringContaining('https://')]);
  expect((await get('/alive')).text).toBe('alive');
});

test('with a certificate that browsers know there is nothing to trust: they are led straight on', async () => {
  root = null;
  const got = await get('/shows/a/page?x=1');
  expect([got.status, got.headers.location]).toEqual([
    302,
    `https://localhost:${port}/shows/a/page?x=1`,
  ]);
  expect((await get('/trust/house.crt')).status).toBe(302);
});
