import { findEmails, isEmail, localPart, registrableDomain } from '../../people/emails';
import { isRoleName } from '../../people/names';
import { cutLine } from '../signature/pieces';
import type { Fact } from './facts';
import type { LaidLink, PageLine } from './layout';

/** An address written for readers and not for machines: "tobias [at] nordbud [dot] example". Common practice. */
const AT_SIGN = String.raw`(?:\s*[[({<]\s*(?:at|@|ät|arobase|arroba|chiocciola|zavináč|małpa|snabel-?a|a)\s*[\])}>]\s*|\s+(?:AT|\(a\))\s+)`;
const DOT = String.raw`(?:\s*[[({<]\s*(?:dot|\.|punkt|point|punto|ponto|punt|piste)\s*[\])}>]\s*|\s+DOT\s+|\.)`;
const SPELT = new RegExp(String.raw`[\w.+-]{1,64}${AT_SIGN}[\w-]{1,63}(?:${DOT}[\w-]{1,63}){1,4}`, 'g');
/** Without one of these no address is spelt out; asking first is many times quicker. */
const MAYBE_SPELT = /[[({<]\s*(?:@|a|ä|chioc|zav|mał|snab)|\sAT\s/;
const LONGEST_LINE = 400;

/** A site's own mailbox or one of its support lines is nobody's. */
export const isSites = (email: string, host: string | null): boolean =>
  host !== null && registrableDomain(email) === host && isRoleName(localPart(email));

/** Percent-encoded text as it reads; as it is where it is badly encoded. */
export function decodeSafely(text: string): string {
  try {
    return decodeURIComponent(text).trim();
  } catch {
    return text.trim();
  }
}

/** The addresses and numbers a line shows. */
export function contactsIn({ text, start }: PageLine): Fact[] {
  if (text.length > LONGEST_LINE * 10) return [];
  const shown = (value: string, at: number, length = value.length): Pick<Fact, 'origin' | 'at'> => ({
    origin: 'page text',
    at: { part: 'text', start: start + at, end: start + at + length },
  });
  const facts: Fact[] = findEmails(text).map((found) => ({
    field: 'email',
    value: found.value,
    ...shown(found.value, found.start),
  }));
  for (const spelt of MAYBE_SPELT.test(text) ? text.matchAll(SPELT) : []) {
    const email = spelt[0].replace(new RegExp(AT_SIGN), '@').replace(new RegExp(DOT, 'g'), '.');
    if (isEmail(email))
      facts.push({ field: 'email', value: email, ...shown(email, spelt.index, spelt[0].length) });
  }
  if (text.length <= LONGEST_LINE)
    for (const piece of cutLine({ text, start: 0 }, 0))
      if (piece.kind === 'phone' && (piece.label || /^[+(0]/.test(piece.value) || isNational(piece.value)))
        facts.push({
          field: 'phone',
          value: piece.value,
          ...shown(piece.value, piece.start),
          ...(piece.label && piece.label !== 'phone' ? { type: piece.label } : {}),
        });
  return facts;
}

/** A number in groups, as countries without a leading nought write it. */
const isNational = (value: string): boolean =>
  /^\d{2,4}(?:[\s.-]\d{2,4}){2,4}(?:\s*(?:ext|x).*)?$/i.test(value);

/** The address or number a link leads to; null for any other. */
export function contactOfLink(link: LaidLink): Fact | null {
  const at = { part: 'source' as const, start: link.at.start, end: link.at.end };
  if (/^mailto:/i.test(link.href)) {
    const value = decodeSafely(link.href.slice(7).split('?')[0] ?? '');
    return isEmail(value) ? { field: 'email', value, origin: 'page links', at } : null;
  }
  if (/^tel:/i.test(link.href))
    return { field: 'phone', value: decodeSafely(link.href.slice(4)), origin: 'page links', at };
  return null;
}
