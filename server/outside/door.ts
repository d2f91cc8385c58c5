import { lookup } from 'node:dns/promises';
import { isIP } from 'node:net';
import ipaddr from 'ipaddr.js';

/** What of the network a person may make this server reach. */
export interface Door {
  /** `host:port` (or `host:*`) of servers on private addresses that may be reached all the same. */
  allowed: readonly string[];
  /** Further ones, as they are at the moment somebody wants to reach one. */
  alsoAllowed?: () => Promise<readonly string[]>;
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

const plainName = (host: string): string => host.toLowerCase().replace(/^\[|\]$/g, '');

/** Whether a server may be reached wherever it stands, by its name or address and its port. */
export async function isAllowedHost(
  host: string,
  port: number,
  { allowed, alsoAllowed }: Door,
): Promise<boolean> {
  const name = plainName(host);
  const all = [...allowed, ...((await alsoAllowed?.()) ?? [])];
  return all.includes(`${name}:${port}`) || all.includes(`${name}:*`);
}

/**
 * The address at which a host that a person named may be reached. It is looked up once and that address is used, so that
 * a second look-up cannot lead elsewhere.
 * @returns null for one that is not there or not on the open internet: the same for both, so that nobody can map a
 *   private network by asking
 */
export async function findAddress(host: string, port: number, door: Door): Promise<string | null> {
  const { resolve = addressesOf } = door;
  const name = plainName(host);
  const isAllowed = await isAllowedHost(host, port, door);
  if (isAllowed && isIP(name)) return name;
  try {
    const addresses = isIP(name) ? [name] : await resolve(name);
    const [first] = addresses;
    return first && (isAllowed || addresses.every(isPublicAddress)) ? first : null;
  } catch {
    return null;
  }
}
