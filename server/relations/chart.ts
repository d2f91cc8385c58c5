import type { Reply } from '@emporikon/contract';
import { orgChart } from '@emporikon/core/people/orgChart';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Company } from '../db/models/people';
import { notFound } from '../http/problems';
import { employmentsOf } from './employments';

const MOST = 500;

/** Who reports to whom at a company: its people, and those outside whom they report to or who report to them. */
export async function companyChart(
  context: Context,
  id: string,
): Promise<Reply<'GET /api/companies/:id/chart'>> {
  if (!(await Company.findByPk(id, { transaction: context.tx }))) throw notFound('There is no such company.');
  const options = { replacements: { id }, type: QueryTypes.SELECT as const, transaction: context.tx };
  const here = `SELECT id FROM people WHERE company_id = :id
                UNION SELECT person_id FROM employments WHERE company_id = :id AND (until_day IS NULL OR until_day > current_date)`;
  const lines = await context.sequelize.query<{ from: string; to: string }>(
    `SELECT r.from_id AS "from", r.to_id AS "to" FROM relations r JOIN relation_kinds k ON k.id = r.kind_id
      WHERE k.is_line AND (r.from_id IN (${here}) OR r.to_id IN (${here})) ORDER BY r.id LIMIT ${MOST}`,
    options,
  );
  const chart = orgChart(lines);
  const ids = [...new Set(lines.flatMap((line) => [line.from, line.to]))];
  const people = ids.length
    ? await context.sequelize.query<{
        id: string;
        name: string;
        jobTitle: string | null;
        isOutside: boolean;
      }>(
        `SELECT p.id, p.full_name AS name, p.job_title AS "jobTitle", p.id NOT IN (${here}) AS "isOutside" FROM people p WHERE p.id IN (:ids) ORDER BY p.full_name`,
        { ...options, replacements: { id, ids } },
      )
    : [];
  return { ...chart, people, employments: await employmentsOf(context, 'company', id) };
}
