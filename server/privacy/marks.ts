import { companyKey } from '@emporikon/core/people/companies';
import { nameKey } from '@emporikon/core/people/names';
import { createHmac } from 'node:crypto';
import { DateTime } from 'luxon';
import type { Context } from '../commands/context';
import { ask } from './sql';

/** What is known of somebody who may have been erased before. */
export interface Knowable {
  name: string;
  company?: string | undefined;
  emails: readonly { normalized: string }[];
  phones: readonly { normalized: string }[];
  links: readonly { kind: string; normalized: string }[];
}

const keysOfRow = ({ name, company, emails, phones, links }: Knowable): string[] => [
  ...emails.map(({ normalized }) => `email:${normalized}`),
  ...(nameKey(name) ? phones.map(({ normalized }) => `phone:${normalized}|${nameKey(name)}`) : []),
  ...links.filter(({ kind }) => kind === 'profile').map(({ normalized }) => `profile:${normalized}`),
  ...(nameKey(name) && company && companyKey(company)
    ? [`name:${nameKey(name)}|${companyKey(company)}`]
    : []),
];

/** HMAC-SHA-256 under a salt of this organisation's own, so that no list of known addresses tells who was erased. */
async function hasher(context: Context): Promise<(key: string) => string> {
  const [row] = await ask<{ salt: string }>(context, 'SELECT salt FROM erasing_salt', {});
  const salt = row?.salt ?? '';
  return (key) => createHmac('sha256', salt).update(key).digest('base64url');
}

export async function keepMarks(context: Context, erasure: string, keys: readonly string[]): Promise<void> {
  const hash = await hasher(context);
  await ask(
    context,
    'INSERT INTO erased_marks (mark, erasure_id) SELECT mark, $erasure::uuid FROM unnest($marks::text[]) mark ON CONFLICT DO NOTHING',
    { erasure, marks: keys.map(hash) },
  );
}

/**
 * When each of some people was erased, for those who were.
 * @returns for each in the same order the time of the latest erasure, null where there was none
 */
export async function erasuresOf(context: Context, people: readonly Knowable[]): Promise<(Date | null)[]> {
  const [any] = await ask<{ found: boolean }>(
    context,
    'SELECT EXISTS (SELECT 1 FROM erased_marks) AS found',
    {},
  );
  if (!any?.found) return people.map(() => null);
  const hash = await hasher(context);
  const marks = people.map((one) => keysOfRow(one).map(hash));
  const rows = await ask<{ mark: string; at: Date }>(
    context,
    'SELECT m.mark, max(e.at) AS at FROM erased_marks m JOIN erasures e ON e.id = m.erasure_id WHERE m.mark = ANY ($marks::text[]) GROUP BY m.mark',
    { marks: marks.flat() },
  );
  const times = new Map(rows.map(({ mark, at }) => [mark, at]));
  return marks.map((own) =>
    own.reduce<Date | null>((latest, mark) => {
      const at = times.get(mark) ?? null;
      return at && (!latest || at > latest) ? at : latest;
    }, null),
  );
}

/** What is said of somebody who was erased; null for everybody else. */
export async function wasErased(context: Context, person: string): Promise<string | null> {
  const [row] = await ask<{ at: Date }>(context, 'SELECT at FROM erasures WHERE person_id = $person::uuid', {
    person,
  });
  return (
    (row &&
      `This person was erased on ${dayOf(context, row.at)}. Leads, deals and dates they were part of are kept, without them.`) ??
    null
  );
}

/** A day in words, where whoever reads it is. */
export const dayOf = ({ actor }: Pick<Context, 'actor'>, at: Date): string =>
  DateTime.fromJSDate(at, { zone: actor?.timeZone ?? 'utc' }).toFormat('d LLLL yyyy');
