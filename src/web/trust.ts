/**
 * The page, over plain HTTP, that takes a phone or tablet through trusting this house; nothing else is served without
 * TLS while the house has a certificate.
 */
import type { IncomingMessage, ServerResponse } from 'node:http';

const TRUST_PATH = '/trust';
/** Where phones fetch the root that they are to trust. */
export const ROOT_PATH = '/trust/house.crt';

/** A host as a browser sends it, or none: it comes back on the page. */
const hostOf = (request: IncomingMessage): string => {
  const host = request.headers.host ?? '';
  return /^[a-z0-9.[\]:-]{1,255}$/i.test(host) ? host : '';
};

/** Where somebody wanted to go; only within this house. */
const targetOf = (request: IncomingMessage): string => {
  const to = new URL(request.url ?? '/', 'http://house').searchParams.get('to') ?? '/';
  return /^\/(?!\/)[\w\-./#?=&%]{0,300}$/.test(to) ? to : '/';
};

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;');

function page(host: string, to: string): string {
  const on = escaped(`https://${host}${to}`);
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Trust this house · Wingman</title>
<style>
  body { margin: 0; background: #0e1513; color: #e8f0ea; font: 17px/1.5 system-ui, sans-serif; }
  main { max-width: 34rem; margin: 0 auto; padding: 1.5rem 1.25rem 3rem; }
  h1 { font-size: 1.5rem; margin: 0.5rem 0; }
  h2 { font-size: 1rem; margin: 1.75rem 0 0.25rem; color: #8ea39a; font-weight: 600; }
  a.act { display: block; margin: 0.75rem 0; padding: 0.9rem 1rem; border-radius: 0.6rem; background: #1b2723;
    color: #e8f0ea; text-align: center; text-decoration: none; font-weight: 600; min-height: 1.5rem; }
  a.go { background: #d3f36b; color: #0e1513; }
  ol { padding-left: 1.2rem; margin: 0.25rem 0; } li { margin: 0.3rem 0; }
  p { margin: 0.5rem 0; } .quiet { color: #8ea39a; font-size: 0.9rem; }
  a:focus-visible { outline: 2px solid #86c8ff; outline-offset: 2px; }
</style>
<main>
  <h1>This device does not know the house yet</h1>
  <p>Wingman talks to phones and tablets in a way that nobody else on the network can read. For that, this device has to
  trust the certificate of this house: once, in about a minute.</p>
  <a class="act" href="${ROOT_PATH}" download="wingman-house.crt">1. Get the certificate</a>
  <h2>On an iPhone or iPad</h2>
  <ol><li>Press <b>Get the certificate</b> and allow it.</li>
  <li>Settings, <b>Profile Downloaded</b>: install it.</li>
  <li>Settings, General, About, <b>Certificate Trust Settings</b>: switch it on.</li></ol>
  <h2>On an Android device</h2>
  <ol><li>Press <b>Get the certificate</b>.</li>
  <li>Settings, Security, More, <b>Install a certificate</b>, CA certificate: choose the file.</li></ol>
  <h2>On a computer</h2>
  <ol><li>Press <b>Get the certificate</b>, open the file, and trust it for websites.</li></ol>
  <a class="act go" href="${on}">2. Go on to Wingman</a>
  <p class="quiet">If a warning comes after that, the certificate is not trusted yet. Somebody who runs this house can
  tell you whether this page is really theirs: it says so where Wingman was started.</p>
</main>
<script>
  fetch('https://' + location.host + '/alive', { mode: 'no-cors', cache: 'no-store' })
    .then(function () { location.replace(document.querySelector('a.go').href); }, function () {});
</script>
`;
}

/** Answers a request that came without TLS. @param root the house’s root; null where a certificate was given, which browsers know */
export function answerPlain(
  root: string | null,
  request: IncomingMessage,
  response: ServerResponse,
): void {
  const { pathname } = new URL(request.url ?? '/', 'http://house');
  const host = hostOf(request);
  const send = (status: number, type: string, body: string): void => {
    response.writeHead(status, {
      'content-type': type,
      'cache-control': 'no-store',
      'x-content-type-options': 'nosniff',
      'x-frame-options': 'DENY',
      'referrer-policy': 'no-referrer',
    });
    response.end(request.method === 'HEAD' ? undefined : body);
  };
  request.resume();
  if (pathname === '/alive') return send(200, 'text/plain', 'alive');
  if (request.method !== 'GET' && request.method !== 'HEAD')
    return send(
      403,
      'application/json',
      JSON.stringify({
        error: { code: 'insecure', message: 'This house is reached by https:// alone.' },
      }),
    );
  if (root !== null && pathname === ROOT_PATH) return send(200, 'application/x-x509-ca-cert', root);
  if (host === '') return send(400, 'text/plain', 'No host was named.');
  if (root !== null && pathname === TRUST_PATH)
    return send(200, 'text/html; charset=utf-8', page(host, targetOf(request)));
  const asked = request.url ?? '/';
  const to =
    root === null ? `https://${host}${asked}` : `${TRUST_PATH}?to=${encodeURIComponent(asked)}`;
  response.writeHead(302, { location: to, 'cache-control': 'no-store' });
  response.end();
}
