import { createHash } from 'node:crypto';
import { writePhoneCard, type PhoneCard } from '@emporikon/core/formats/phoneCard';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Actor, type Tools } from '../commands/context';
import type { CaldavLink } from '../db/models/caldav';
import type { Dav } from '../outside/dav';
import { DavTrouble } from '../outside/davFetch';
import { renewLease } from './link';

const TYPE = 'text/vcard; charset=utf-8';
/** More than a phone's address book is good for. */
const MOST = 5000;

interface Row extends Omit<PhoneCard, 'uid'> {
  id: string;
  print: string | null;
}

/** The people somebody owns and can be called by or call, with the print of the card that was written of them last. */
const loadPeople = (tools: Tools, actor: Actor, link: CaldavLink): Promise<Row[]> =>
  runInTransaction(tools, actor, ({ sequelize, tx }) =>
    sequelize.query<Row>(
      `SELECT p.id, w.print, p.full_name AS "fullName", p.given_name AS "givenName", p.family_name AS "familyName",
              coalesce(p.job_title, '') AS "jobTitle", coalesce(c.name, '') AS "companyName", k.phones, k.emails
         FROM people p LEFT JOIN companies c ON c.id = p.company_id LEFT JOIN carddav_cards w ON w.link_id = $link AND w.person_id = p.id
         JOIN LATERAL (SELECT coalesce(jsonb_agg(jsonb_build_object('value', x.normalized, 'type', x.type) ORDER BY x.created_at, x.id) FILTER (WHERE x.kind = 'phone'), '[]') AS phones,
                              coalesce(jsonb_agg(x.normalized ORDER BY x.created_at, x.id) FILTER (WHERE x.kind = 'email'), '[]') AS emails
                         FROM contact_points x WHERE x.person_id = p.id AND x.kind IN ('phone', 'email')) k ON k.phones <> '[]'
        WHERE p.owner_id = $me AND p.inactive_since IS NULL AND p.full_name <> '' ORDER BY p.updated_at DESC, p.id LIMIT ${MOST}`,
      { bind: { me: actor.id, link: link.id }, type: QueryTypes.SELECT, transaction: tx },
    ),
  );

const loadWritten = (tools: Tools, link: CaldavLink): Promise<{ personId: string }[]> =>
  tools.sequelize.query<{ personId: string }>(
    'SELECT person_id AS "personId" FROM carddav_cards WHERE link_id = $link',
    { bind: { link: link.id }, type: QueryTypes.SELECT },
  );

const note = (tools: Tools, link: CaldavLink, personId: string, print: string | null): Promise<unknown> =>
  tools.sequelize.query(
    print === null
      ? 'DELETE FROM carddav_cards WHERE link_id = $link AND person_id = $personId'
      : `INSERT INTO carddav_cards (link_id, person_id, print) VALUES ($link, $personId, $print)
         ON CONFLICT (link_id, person_id) DO UPDATE SET print = EXCLUDED.print`,
    { bind: { link: link.id, personId, ...(print === null ? {} : { print }) } },
  );

/** The cards of an address book that are ours have a name by which they are known; no other is touched. */
const urlOf = (book: string, personId: string): string =>
  new URL(`person.${personId}.vcf`, book.replace(/\/?$/, '/')).href;

/** Writes a card whatever stands there: it is ours, and goes one way. */
async function write(dav: Dav, url: string, card: string): Promise<void> {
  const first = await dav.put(url, card, TYPE, null);
  if (first.isDone || (await dav.put(url, card, TYPE, '*')).isDone) return;
  throw new DavTrouble('The address book did not take a card.');
}

/** Brings an address book elsewhere to the people somebody owns; what is changed there is not taken. */
export async function sendCards(tools: Tools, actor: Actor, link: CaldavLink, dav: Dav): Promise<void> {
  const book = link.addressBookUrl;
  if (!book) return;
  const people = await loadPeople(tools, actor, link);
  for (const { id, print, ...person } of people) {
    const card = writePhoneCard({ uid: `person.${id}`, ...person });
    const isNow = createHash('sha256').update(book).update(card).digest('base64url');
    if (isNow === print) continue;
    await renewLease(tools, link.id);
    await write(dav, urlOf(book, id), card);
    await note(tools, link, id, isNow);
  }
  const wanted = new Set(people.map(({ id }) => id));
  for (const { personId } of await loadWritten(tools, link)) {
    if (wanted.has(personId)) continue;
    await dav.remove(urlOf(book, personId), null);
    await note(tools, link, personId, null);
  }
}
