/** Schemes a link may have. Anything else is shown as the words it is. */
const SAFE = new Set(['http:', 'https:', 'mailto:', 'tel:']);

/** An address that may be made a link of; undefined for `javascript:` and every other scheme. */
export function safeHref(text: string | null | undefined): string | undefined {
  if (!text || !URL.canParse(text)) return undefined;
  return SAFE.has(new URL(text).protocol) ? text : undefined;
}

/** Whether letters of several scripts stand in one name, or any but Latin ones, which can look like others. */
const UNUSUAL = /[^\x20-\x7e]/;

/** The form in which a domain is registered, for one that is written in letters that may look like others; else null. */
export function plainDomain(text: string): string | null {
  const domain =
    /@([^@\s>]+)$/.exec(text)?.[1] ?? (URL.canParse(text) ? /^[a-z]+:\/\/([^/?#:]+)/i.exec(text)?.[1] : null);
  if (!domain || !UNUSUAL.test(domain)) return null;
  return URL.canParse(`https://${domain}`) ? new URL(`https://${domain}`).host : null;
}
