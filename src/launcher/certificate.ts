/**
 * The house's own certificate, for browsers of other machines: they give MIDI, microphones and installing to secure pages
 * alone. Its root is made once and is what phones trust; the certificate below it is made anew when the machine's
 * addresses change, or before it ends.
 */
import { X509Certificate } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { hostname, networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { addDays, addYears } from 'date-fns';
import { generate } from 'selfsigned';
import { LOCAL_NAMES } from './local-name.ts';

/** By which browsers know a house. */
export interface HouseCertificate {
  key: string;
  /** With the root after it, where that is the house’s own. */
  cert: string;
  /** What phones are to trust; null for a certificate that was given. */
  root: string | null;
}

/** Files that were given instead. */
export interface GivenCertificate {
  cert: string;
  key: string;
}

const ROOT_YEARS = 10;
/** Phones take no certificate that lasts longer than this below a root of one’s own. */
const DAYS = 397;
const RENEWED_BEFORE_DAYS = 30;
/** Kinds of a name in a certificate (RFC 5280, 4.2.1.6). */
const DNS = 2 as const;
const IP = 7 as const;

/** Addresses of this machine in the house’s network, IPv4. */
export const lanAddresses = (): string[] =>
  Object.values(networkInterfaces())
    .flat()
    .flatMap((i) => (i?.family === 'IPv4' && !i.internal ? [i.address] : []));

const namesHere = (): string[] => {
  const machine = hostname().toLowerCase();
  return [...new Set(['localhost', machine, `${machine}.local`, ...LOCAL_NAMES])].filter((n) =>
    /^[a-z0-9.-]+$/.test(n),
  );
};

const read = (file: string): string | null =>
  existsSync(file) ? readFileSync(file, 'utf8') : null;
const keep = (file: string, text: string): string => {
  writeFileSync(file, text, { mode: 0o600 });
  return text;
};

async function makeRoot(): Promise<{ key: string; cert: string }> {
  const made = await generate(
    [
      { name: 'commonName', value: `Wingman at ${hostname()}` },
      { name: 'organizationName', value: 'Wingman' },
    ],
    {
      keyType: 'ec',
      algorithm: 'sha256',
      notAfterDate: addYears(new Date(), ROOT_YEARS),
      extensions: [
        { name: 'basicConstraints', cA: true, pathLenConstraint: 0, critical: true },
        { name: 'keyUsage', keyCertSign: true, cRLSign: true, critical: true },
      ],
    },
  );
  return { key: made.private, cert: made.cert };
}

async function makeLeaf(
  ca: { key: string; cert: string },
  names: readonly string[],
  addresses: readonly string[],
): Promise<{ key: string; cert: string }> {
  const made = await generate([{ name: 'commonName', value: LOCAL_NAMES[0] ?? 'wingman.local' }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notAfterDate: addDays(new Date(), DAYS),
    ca,
    extensions: [
      { name: 'basicConstraints', cA: false, critical: true },
      { name: 'keyUsage', digitalSignature: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: [
          ...names.map((value) => ({ type: DNS, value })),
          ...addresses.map((ip) => ({ type: IP, ip })),
        ],
      },
    ],
  });
  return { key: made.private, cert: made.cert };
}

/** Whether a certificate still serves: for every name and address here, and for a while. */
function serves(
  cert: string,
  root: string,
  names: readonly string[],
  addresses: readonly string[],
): boolean {
  try {
    const is = new X509Certificate(cert);
    return (
      is.checkIssued(new X509Certificate(root)) &&
      new Date(is.validTo) > addDays(new Date(), RENEWED_BEFORE_DAYS) &&
      names.every((n) => is.checkHost(n) !== undefined) &&
      addresses.every((a) => is.checkIP(a) !== undefined)
    );
  } catch {
    return false;
  }
}

/**
 * @param data the data folder, where it is kept
 * @param given files to use instead
 * @throws Error with a sentence where the given ones cannot be read
 */
export async function houseCertificate(
  data: string,
  given?: GivenCertificate,
): Promise<HouseCertificate> {
  if (given) {
    const cert = read(given.cert);
    const key = read(given.key);
    if (cert === null || key === null)
      throw new Error(
        `There is no file ${cert === null ? given.cert : given.key}. Nothing was started.`,
      );
    return { key, cert, root: null };
  }
  const folder = join(data, 'certificate');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const file = (name: string): string => join(folder, name);
  const kept = { key: read(file('root.key')), cert: read(file('root.crt')) };
  let root: { key: string; cert: string };
  if (kept.key !== null && kept.cert !== null) root = { key: kept.key, cert: kept.cert };
  else {
    root = await makeRoot();
    keep(file('root.key'), root.key);
    keep(file('root.crt'), root.cert);
  }
  const names = namesHere();
  const addresses = ['127.0.0.1', ...lanAddresses()];
  const [key, cert] = [read(file('house.key')), read(file('house.crt'))];
  if (key !== null && cert !== null && serves(cert, root.cert, names, addresses))
    return { key, cert: `${cert}\n${root.cert}`, root: root.cert };
  const made = await makeLeaf(root, names, addresses);
  keep(file('house.key'), made.key);
  keep(file('house.crt'), made.cert);
  return { key: made.key, cert: `${made.cert}\n${root.cert}`, root: root.cert };
}
