import type { Gaps } from '@emporikon/contract/lookups';
import { likelyEmails } from '@emporikon/core/lookups/addresses';
import { QueryTypes } from 'sequelize';
import type { Context } from '../../commands/context';
import { LookUp, type LookUpSubject } from '../../db/models/lookUps';
import { notFound } from '../../http/problems';
import {
  companyCompleteness,
  domainOf,
  loadLookUpRecords,
  personCompleteness,
  wholeCompleteness,
  type LookUpRecord,
} from './known';
import { suggestionsFor } from '../applying/suggestions';

const MOST_COLLEAGUES = 200;

/** Likely addresses of somebody who has none at their firm's domain. */
async function likely(context: Context, looked: LookUpRecord): Promise<Gaps['likelyEmails']> {
  const domain = domainOf(looked);
  const { person, contacts } = looked;
  if (!person || !domain || contacts.some((contact) => contact.normalized.endsWith(`@${domain}`))) return [];
  const colleagues = await context.sequelize.query<{ fullName: string; email: string }>(
    `SELECT p.full_name AS "fullName", k.normalized AS email FROM contact_points k JOIN people p ON p.id = k.person_id
      WHERE k.kind = 'email' AND p.id IN (
        SELECT id FROM people WHERE company_id = :companyId
        UNION SELECT f.id FROM find_words f WHERE f.kind = 'p' AND f.word = :domain)
      LIMIT :most`,
    {
      replacements: { companyId: looked.company?.id ?? null, domain, most: MOST_COLLEAGUES },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return likelyEmails(person.fullName, domain, colleagues).map(
    ({ email, probability, because, known, follow }) => ({ email, probability, because, known, follow }),
  );
}

/** What is missing of a person or a company, what is suggested, and what can be worked out. @throws 404 */
export async function gapsOf(context: Context, subject: LookUpSubject): Promise<Gaps> {
  const [looked] = await loadLookUpRecords(context, [subject]);
  if (!looked) throw notFound('There is no such record.');
  const last = await LookUp.findOne({
    where: subject.personId ? { personId: subject.personId } : { companyId: looked.company?.id ?? null },
    order: [['askedAt', 'DESC']],
    transaction: context.tx,
  });
  return {
    person: looked.person ? personCompleteness(looked) : null,
    company: looked.company ? companyCompleteness(looked) : null,
    score: wholeCompleteness(looked),
    suggestions: await suggestionsFor(context, looked),
    likelyEmails: await likely(context, looked),
    lookedUp: last?.askedAt.toISOString() ?? null,
  };
}
