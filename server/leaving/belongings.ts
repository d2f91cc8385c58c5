import type { Belongings } from '@emporikon/contract/leaving';
import type { BulkKind } from '@emporikon/core/bulk/types';
import { QueryTypes } from 'sequelize';
import { isOwnAppointment } from '../caldav/appointments';
import type { Context } from '../commands/context';

/** Which records somebody hands over, as SQL of their ids. What is closed stays with whoever closed it, for the figures. */
export const RECORDS: Readonly<Record<BulkKind, string>> = {
  person: 'SELECT id FROM people WHERE owner_id = $id',
  company: 'SELECT id FROM companies WHERE owner_id = $id',
  lead: "SELECT id FROM leads WHERE owner_id = $id AND status NOT IN ('converted', 'dropped')",
  deal: 'SELECT id FROM deals WHERE owner_id = $id AND closed_at IS NULL',
};

const count = (sql: string): string => `(SELECT count(*)::int FROM (${sql}) t)`;

/** What somebody looks after. Their own appointments are not handed over: nobody else can keep them. */
export async function countBelongings(context: Context, id: string): Promise<Belongings> {
  const [row] = await context.sequelize.query<Belongings>(
    `SELECT ${count(RECORDS.person)} AS people, ${count(RECORDS.company)} AS companies, ${count(RECORDS.lead)} AS leads, ${count(RECORDS.deal)} AS deals,
            ${count(`SELECT 1 FROM tasks WHERE assignee_id = $id AND done_at IS NULL AND NOT ${isOwnAppointment('tasks')}`)} AS tasks,
            ${count('SELECT 1 FROM projects WHERE owner_id = $id AND closed_at IS NULL')} AS projects,
            ${count('SELECT 1 FROM cases WHERE owner_id = $id AND solved_at IS NULL')} AS cases,
            ${count('SELECT 1 FROM forms WHERE owner_id = $id')} AS forms,
            ${count('SELECT 1 FROM owner_rules WHERE $id::text = ANY (owners)')} AS "ownerRules",
            ${count("SELECT 1 FROM views WHERE owner_id = $id AND shared <> 'me'")} AS views`,
    { bind: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (!row) throw new Error('counting gave no row');
  return row;
}
