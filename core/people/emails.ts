import { getDomain, getHostname } from 'tldts';
import { isMailProvider } from './mailProviders';

/** One address in text; local parts as people have them (RFC 5322 dot-atom), domain with a dot. */
const EMAIL =
  /[\p{L}\p{N}](?:[\p{L}\p{N}.!#$%&'*+/=?^_`{|}~-]{0,62}[\p{L}\p{N}_+-])?@(?:[\p{L}\p{N}](?:[\p{L}\p{N}-]{0,61}[\p{L}\p{N}])?\.)+\p{L}{2,24}/gu;

export interface Found {
  value: string;
  start: number;
  end: number;
}

/** Finds the email addresses in a line of text, with their places in it. */
export function findEmails(text: string): Found[] {
  return text.includes('@')
    ? [...text.matchAll(EMAIL)].map((match) => ({
        value: match[0],
        start: match.index,
        end: match.index + match[0].length,
      }))
    : [];
}

/**
 * The form in which two writings of one mailbox are equal: trimmed, lower case (domains are case-insensitive by
 * RFC 5321 §2.3.11; local parts are treated so by every large provider: common practice).
 */
export function normalizeEmail(address: string): string {
  return address
    .trim()
    .replace(/^mailto:/i, '')
    .toLowerCase();
}

/** Whether the text is one plausible address, with nothing around it. */
export function isEmail(text: string): boolean {
  const found = findEmails(text.trim());
  return found.length === 1 && found[0]?.value === text.trim();
}

export function localPart(address: string): string {
  return address.slice(0, Math.max(0, address.lastIndexOf('@')));
}

/**
 * The registrable domain of an address, host name or URL (public suffix list), lower case; null when there is none.
 * Reserved names such as `padariasol.example` count as registrable.
 */
export function registrableDomain(addressOrUrl: string): string | null {
  const at = addressOrUrl.lastIndexOf('@');
  const host = at >= 0 && !addressOrUrl.includes('://') ? addressOrUrl.slice(at + 1) : addressOrUrl;
  return getDomain(getHostname(host.trim()) ?? '', { validateHostname: false })?.toLowerCase() ?? null;
}

/** The registrable domain that stands for an employer: null for free-mail and missing domains. */
export function companyDomain(addressOrUrl: string): string | null {
  const domain = registrableDomain(addressOrUrl);
  return domain && !isMailProvider(domain) ? domain : null;
}
