import { companyKey } from '@emporikon/core/people/companies';
import { nameKey } from '@emporikon/core/people/names';
import { pick, type Random } from '../crowd/errors';
import type { Row } from '../crowd/people';

export type Cells = readonly (string | number | boolean | null | readonly string[])[];

/** A UUID from the seed (version 4 in form), so that the same seed makes the same book. */
export function idFrom(random: Random): string {
  const hex = Array.from({ length: 4 }, () =>
    Math.floor(random() * 2 ** 32)
      .toString(16)
      .padStart(8, '0'),
  ).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

export const PEOPLE =
  'id, full_name, given_name, family_name, name_key, job_title, address, company_id, tags, inactive_since, owner_id, created_at, updated_at';
export const CONTACTS = 'id, person_id, kind, value, normalized, type, created_at';
const TAGS = ['bakery', 'courier', 'fair 2026', 'newsletter', 'florist', 'workshop'];

interface Firm {
  id: string;
  name: string;
  domain: string;
  street: string;
}
export interface Made {
  firms: Map<string, Firm>;
  taken: Set<string>;
}

export function* peopleOf(
  rows: readonly Row[],
  ids: readonly string[],
  random: Random,
  { firms }: Made,
  owners: readonly string[],
): Generator<Cells> {
  const now = new Date('2026-11-01T09:00:00Z').toISOString();
  for (const [at, row] of rows.entries()) {
    const fullName = `${row.given} ${row.family}`.trim() || row.email || 'Nameless';
    const firm = firms.get(companyKey(row.company));
    const tags = random() < 0.12 ? [pick(random, TAGS)] : [];
    const gone = random() < 0.04 ? now : null;
    yield [
      ids[at] ?? '',
      fullName,
      row.given,
      row.family,
      nameKey(fullName),
      row.title || null,
      row.street ? `${row.street}, ${row.city}` : null,
      firm?.id ?? null,
      tags,
      gone,
      pick(random, owners),
      now,
      now,
    ];
  }
}

export function* contactsOf(
  rows: readonly Row[],
  ids: readonly string[],
  random: Random,
  { taken }: Made,
): Generator<Cells> {
  const now = new Date('2026-11-01T09:00:00Z').toISOString();
  for (const [at, row] of rows.entries()) {
    const email = row.email.toLowerCase();
    if (/^[^@\s]+@[^@\s]+$/.test(email) && !taken.has(email)) {
      taken.add(email);
      yield [idFrom(random), ids[at] ?? '', 'email', row.email, email, null, now];
    }
    const phone = row.phone.replace(/^0(?=\d)/, '+999');
    if (/^\+\d{6,15}$/.test(phone))
      yield [idFrom(random), ids[at] ?? '', 'phone', phone, phone, 'mobile', now];
  }
}
