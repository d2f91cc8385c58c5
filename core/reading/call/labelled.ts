import { isEmail, normalizeEmail } from '../../people/emails';
import { parseName } from '../../people/names';
import { readPhone, type PhoneType } from '../../people/phones';
import { fieldOfLabel } from '../table/labels';
import type { Claim } from '../types';
import { usableValue } from '../usable';

const LINE =
  /(?:^|(?<=[.;]\s))[ \t]*(?<label>[\p{L}][\p{L} /.-]{0,28}?)[ \t]*[:=][ \t]*(?<value>\S.*?)[ \t]*$/gmu;

/** "Phone: …", "Company = …": lines that say themselves what they hold. */
export function readLabelled(text: string, country: string | undefined): Claim[] {
  const claims: Claim[] = [];
  for (const match of text.matchAll(LINE)) {
    const { label = '', value = '' } = match.groups ?? {};
    const field = fieldOfLabel(label);
    // "Caller: ray, ray's auto glass. after lunch" is a sentence, and no name.
    if (!field || value.length > 200 || (field.field === 'fullName' && value.split(/\s+/).length > 6))
      continue;
    const start = match.index + match[0].lastIndexOf(value);
    const claim = claimOf(field.field, value, field.type ?? null, country);
    if (claim && !claims.some((one) => one.field === claim.field && one.value === claim.value))
      claims.push({
        ...claim,
        span: { part: 'text', start, end: start + value.length },
        source: `“${label.trim()}”`,
      });
  }
  return claims;
}

/**
 * The claim that a value under a known heading makes; null when the value cannot be one, such as an address without @.
 * @param type what the heading says of a number: `mobile`, `fax` …
 */
export function claimOf(
  field: Claim['field'],
  value: string,
  type: PhoneType | null,
  country: string | undefined,
): Claim | null {
  const text = value.trim();
  if (!text) return null;
  const base = { field, value: text, confidence: 0.96, source: '' };
  if (field === 'email') return isEmail(text) ? { ...base, normalized: normalizeEmail(text) } : null;
  if (field === 'phone') {
    const read = readPhone(text, country ? [country] : []);
    return read
      ? {
          ...base,
          normalized: read.normalized,
          type: type ?? read.type ?? 'work',
          confidence: read.valid ? 0.96 : 0.85,
        }
      : null;
  }
  if (field === 'url' || field === 'profile') {
    const url = /^https?:\/\//i.test(text) ? text : `https://${text}`;
    return /^https?:\/\/[^\s/]+\.[^\s]+$/i.test(url)
      ? { ...base, normalized: url.replace(/\/+$/, '') }
      : null;
  }
  if (field === 'fullName') {
    const { fullName } = parseName(text);
    return fullName ? { ...base, value: fullName } : null;
  }
  const usable = usableValue(field, text);
  return usable === null ? null : { ...base, value: usable };
}
