import type { Reply } from '@emporikon/contract';
import { freeDaysOf } from '@emporikon/core/calendar/holidays';
import { sendTimes } from '@emporikon/core/outreach/sendTimes';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { ownLetter } from './read';

interface Reader {
  zone: string | null;
  country: string | null;
}

/** When a letter could go out so that it arrives while its first reader works, on their clock and by their holidays where known. */
export async function letterTimes(
  context: Context,
  id: string,
): Promise<Reply<'GET /api/letters/:id/times'>> {
  const letter = await ownLetter(context, id);
  const { sequelize, tx, now, house } = context;
  const [reader] = await sequelize.query<Reader>(
    `SELECT p.time_zone AS zone, coalesce((SELECT w.country FROM places w WHERE w.record_id = p.id), c.country) AS country
       FROM letter_recipients r JOIN people p ON p.id = r.person_id LEFT JOIN companies c ON c.id = p.company_id
      WHERE r.letter_id = $id ORDER BY r.way = 'to' DESC, r.position LIMIT 1`,
    { bind: { id: letter.id }, type: QueryTypes.SELECT, transaction: tx },
  );
  const zone = reader?.zone ?? requireActor(context).timeZone;
  const here = DateTime.fromJSDate(now(), { zone });
  const free = freeDaysOf(reader?.country ?? house.country, [here.year, here.year + 1], new Map());
  return {
    zone,
    isTheirs: Boolean(reader?.zone),
    items: sendTimes(here, undefined, free).map(({ name, at }) => ({ name, at: at.toISO() ?? '' })),
  };
}
