import { freeDaysOf } from '@emporikon/core/calendar/holidays';
import type { FreeDays } from '@emporikon/core/calendar/workingDays';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

/** Holidays of the year before to those of so many years on. */
const YEARS_ON = 2;

/** The days on which somebody does not work: the weekend and holidays of their place, and the closed days of all. */
export async function freeDaysFor(
  { sequelize, tx, now, house }: Pick<Context, 'sequelize' | 'tx' | 'now' | 'house'>,
  userId: string | null,
): Promise<FreeDays> {
  const rows = await sequelize.query<{ place: string | null; day: string | null; name: string | null }>(
    `SELECT (SELECT holidays FROM users WHERE id = $userId::uuid) AS place, d.day::text, d.name
       FROM (SELECT 1) one LEFT JOIN closed_days d ON true`,
    { bind: { userId }, type: QueryTypes.SELECT, transaction: tx },
  );
  const year = now().getUTCFullYear();
  return freeDaysOf(
    rows[0]?.place ?? house.country,
    [...Array(YEARS_ON + 2).keys()].map((more) => year - 1 + more),
    new Map(rows.flatMap(({ day, name }) => (day && name ? [[day, name]] : []))),
  );
}
