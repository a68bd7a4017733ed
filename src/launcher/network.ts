/** How a house is reached: by this machine alone over plain HTTP, by others over TLS under its addresses and a name. */
import { toString as codeOf } from 'qrcode';
import { isLoopback } from '../core/loopback.ts';
import { houseCertificate, lanAddresses, type HouseCertificate } from './certificate.ts';
import { localName } from './local-name.ts';
import type { Options } from './options.ts';

/** Addresses that stand for all cards of a machine. */
const EVERYWHERE = new Set(['0.0.0.0', '::']);

/** Where a house is reached. */
export interface Reached {
  /** Where browsers go. */
  url: string;
  /** Host and port for this machine itself. */
  own: string;
  certificate: HouseCertificate | null;
  /** `wingman.local`, where the network takes such names. */
  name: string | null;
  /** Host and port where a phone begins. */
  lan: string;
  close: () => void;
}

const inUrl = (host: string): string => (host.includes(':') ? `[${host}]` : host);

/** @throws Error with a sentence where a given certificate cannot be read */
export async function reach({
  host,
  port,
  data,
  certificate: given,
  plain,
}: Options): Promise<Reached> {
  const isEverywhere = EVERYWHERE.has(host);
  const own = `${isEverywhere ? '127.0.0.1' : inUrl(host)}:${port}`;
  if (isLoopback(host))
    return {
      url: `http://${own}`,
      own,
      certificate: null,
      name: null,
      lan: own,
      close: () => undefined,
    };
  const certificate = plain ? null : await houseCertificate(data, given);
  const scheme = certificate ? 'https' : 'http';
  const lan = `${isEverywhere ? (lanAddresses()[0] ?? '127.0.0.1') : inUrl(host)}:${port}`;
  const addresses = (): string[] => (isEverywhere ? lanAddresses() : [host]);
  const { name, close } = await localName(addresses);
  return { url: `${scheme}://${lan}`, own, certificate, name, lan, close };
}

/** What the web process is told of it. */
export const tlsOf = ({ certificate }: Reached): Record<string, string> =>
  certificate
    ? {
        WINGMAN_TLS_CERT: certificate.cert,
        WINGMAN_TLS_KEY: certificate.key,
        ...(certificate.root === null ? {} : { WINGMAN_TLS_ROOT: certificate.root }),
      }
    : {};

/** For whoever starts it with other machines in mind: the name, and where a phone begins, as a code to be photographed. */
export async function tellNetwork({ certificate, name, lan, url }: Reached): Promise<void> {
  const port = lan.slice(lan.lastIndexOf(':'));
  if (name !== null) console.log(`Also by its name: ${url.split(':')[0]}://${name}${port}`);
  if (!certificate || certificate.root === null) return;
  const start = `http://${lan}/trust`;
  console.log(`A phone or tablet that comes for the first time begins at ${start}`);
  if (process.stdout.isTTY) console.log(await codeOf(start, { type: 'terminal', small: true }));
}
