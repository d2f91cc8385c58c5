import { usableValue } from '@emporikon/core/reading/usable';
import { isEmail, normalizeEmail } from '@emporikon/core/people/emails';
import { readPhone, type PhoneType } from '@emporikon/core/people/phones';
import type { ClaimRow } from '../db/models/captures';
import { invalid } from '../http/problems';

/** The normal form of a value typed by hand. @throws 422 where the value cannot be one */
export function normalizeValue(
  field: ClaimRow['field'],
  value: string,
  countries: readonly string[],
): { normalized: string | null; type: PhoneType | null } {
  if (field === 'email') {
    if (!isEmail(value))
      throw invalid('That is not an email address.', { fields: { value: 'is not an email address' } });
    return { normalized: normalizeEmail(value), type: null };
  }
  if (field === 'phone') {
    const read = readPhone(value, countries);
    if (!read)
      throw invalid('That is not a phone number; begin with + and the country code.', {
        fields: { value: 'is not a phone number' },
      });
    return { normalized: read.normalized, type: read.type };
  }
  if (field === 'url' || field === 'profile') {
    const url = /^https?:\/\//i.test(value) ? value : `https://${value}`;
    if (!URL.canParse(url) || !new URL(url).hostname.includes('.'))
      throw invalid('That is not a web address.', { fields: { value: 'is not a web address' } });
    return { normalized: url.replace(/\/+$/, ''), type: null };
  }
  if (usableValue(field, value) === null)
    throw invalid(
      field === 'birthday' ? 'That is not a day.' : 'That is not a time zone such as Europe/Lisbon.',
      { fields: { value: field === 'birthday' ? 'is not a day' : 'is not a time zone' } },
    );
  return { normalized: null, type: null };
}
