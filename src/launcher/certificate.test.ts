/** The house's own certificate: what browsers ask of one, and that phones go on trusting it. */
import { X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { generate } from 'selfsigned';
import { houseCertificate, lanAddresses } from './certificate.ts';
import { LOCAL_NAMES } from './local-name.ts';

const folders: string[] = [];
const folder = (): string => {
  const made = mkdtempSync(join(tmpdir(), 'certificate-'));
  folders.push(made);
  return made;
};
afterAll(() => folders.forEach((f) => rmSync(f, { recursive: true })));
const leafOf = (cert: string): X509Certificate => new X509Certificate(cert);

test('it is signed by a root that may sign nothing but such, and has every name and address of the machine', async () => {
  const { cert, root } = await houseCertificate(folder());
  const leaf = leafOf(cert);
  const ca = new X509Certificate(root ?? '');
  expect([ca.ca, leaf.ca, leaf.checkIssued(ca), leaf.verify(ca.publicKey)]).toEqual([
    true,
    false,
    true,
    true,
  ]);
  for (const name of ['localhost', ...LOCAL_NAMES]) expect(leaf.checkHost(name)).toBe(name);
  for (const address of ['127.0.0.1', ...lanAddresses()])
    expect(leaf.checkIP(address)).toBe(address);
  // Phones refuse what lasts longer below a root of one’s own.
  const days = (Date.parse(leaf.validTo) - Date.parse(leaf.validFrom)) / 86_400_000;
  expect(days).toBeLessThan(398);
});

test('the next start has the same one; keys are for this user alone', async () => {
  const data = folder();
  const first = await houseCertificate(data);
  const again = await houseCertificate(data);
  expect(again).toEqual(first);
  for (const name of ['root.key', 'house.key'])
    expect(statSync(join(data, 'certificate', name)).mode & 0o077).toBe(0);
});

test('one that serves no more, or cannot be read, is made anew below the same root', async () => {
  const data = folder();
  const first = await houseCertificate(data);
  const root = readFileSync(join(data, 'certificate', 'root.crt'), 'utf8');
  const old = await generate([{ name: 'commonName', value: 'elsewhere' }], { keyType: 'ec' });
  for (const cert of [old.cert, 'no certificate']) {
    writeFileSync(join(data, 'certificate', 'house.crt'), cert);
    const next = await houseCertificate(data);
    expect(next.root).toBe(root);
    expect(leafOf(next.cert).checkIssued(leafOf(root))).toBe(true);
    expect(next.cert).not.toBe(first.cert);
  }
});

test('one that was given is used as it is, and there is nothing to trust; a file that is not there is said', async () => {
  const data = folder();
  const made = await generate([{ name: 'commonName', value: 'given' }], { keyType: 'ec' });
  const files = { cert: join(data, 'c.pem'), key: join(data, 'k.pem') };
  await expect(houseCertificate(data, files)).rejects.toThrow(`There is no file ${files.cert}`);
  writeFileSync(files.cert, made.cert);
  writeFileSync(files.key, made.private);
  expect(await houseCertificate(data, files)).toEqual({
    cert: made.cert,
    key: made.private,
    root: null,
  });
});
