/**
 * Which requests are answered at all. A page of another site can have its name lead to this machine (DNS rebinding), and can
 * send requests that change something: only names that are this app's own are answered, and only its own pages change things.
 */
import { hostname, networkInterfaces } from 'node:os';

const LOOPBACK = ['127.0.0.1', 'localhost', '::1'];

export const isLoopback = (host: string): boolean =>
  LOOPBACK.includes(host) || /^127\.\d+\.\d+\.\d+$/.test(host);

/** Names and addresses under which a server that listens on `host` is rightly asked. */
export function knownHosts(host: string): Set<string> {
  const known = [...LOOPBACK, host.toLowerCase()];
  if (!isLoopback(host)) {
    const own = hostname().toLowerCase();
    const addresses = Object.values(networkInterfaces()).flatMap((each) => each ?? []);
    known.push(own, `${own}.local`, ...addresses.map(({ address }) => address.toLowerCase()));
  }
  return new Set(known);
}

/** The host of a Host header or of an origin, without its port and brackets; null when it is none. */
function hostOf(address: string): string | null {
  try {
    return new URL(address.includes('://') ? address : `http://${address}`).hostname.replace(/^\[|\]$/g, '');
  } catch {
    return null;
  }
}

export interface Asked {
  method: string;
  host?: string;
  origin?: string;
  /** Sec-Fetch-Site: where a browser says that the request comes from. */
  site?: string;
}

const READING = ['GET', 'HEAD', 'OPTIONS'];

/** Why a request is not answered, or null. */
export function refusal({ method, host, origin, site }: Asked, known: ReadonlySet<string>): string | null {
  const name = host && hostOf(host);
  if (!name || !known.has(name))
    return 'Line True is not known under this name. Use the address that bin/start printed.';
  if (READING.includes(method)) return null;
  if (site && site !== 'same-origin' && site !== 'none')
    return 'Only pages of Line True itself may change things here.';
  if (origin && hostOf(origin) !== name) return 'Only pages of Line True itself may change things here.';
  return null;
}
