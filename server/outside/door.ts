import { lookup } from 'node:dns/promises';
import { isIP } from 'node:net';
import ipaddr from 'ipaddr.js';

/** What of the network a person may make this server reach. */
export interface Door {
  /** `host:port` (or `host:*`) of servers on private addresses that may be reached all the same. */
  allowed: readonly string[];
  resolve?: (host: string) => Promise<string[]>;
}

const addressesOf = async (host: string): Promise<string[]> =>
  (await lookup(host, { all: true })).map((one) => one.address);

/**
 * Whether an address is one of the open internet: not loopback, private, link-local, carrier, documentation, mapped, nor
 * an IPv4 address in the old IPv4-compatible form (`::/96`, RFC 4291 §2.5.5.1).
 */
export function isPublicAddress(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const parsed = ipaddr.process(address);
  if (parsed instanceof ipaddr.IPv6 && parsed.parts.slice(0, 6).every((part) => part === 0)) return false;
  return parsed.range() === 'unicast';
}

export const isLoopback = (address: string): boolean =>
  ipaddr.isValid(address) && ipaddr.process(address).range() === 'loopback';

/**
 * The address at which a host that a person named may be reached. It is looked up once and that address is used, so that
 * a second look-up cannot lead elsewhere.
 * @returns null for one that is not there or not on the open internet: the same for both, so that nobody can map a
 *   private network by asking
 */
export async function findAddress(
  host: string,
  port: number,
  { allowed, resolve = addressesOf }: Door,
): Promise<string | null> {
  const name = host.toLowerCase().replace(/^\[|\]$/g, '');
  const isAllowed = allowed.includes(`${name}:${port}`) || allowed.includes(`${name}:*`);
  if (isAllowed && isIP(name)) return name;
  try {
    const addresses = isIP(name) ? [name] : await resolve(name);
    const [first] = addresses;
    return first && (isAllowed || addresses.every(isPublicAddress)) ? first : null;
  } catch {
    return null;
  }
}
