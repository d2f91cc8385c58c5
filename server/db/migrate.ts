import type { Sequelize } from 'sequelize';
import { QueryTypes } from 'sequelize';
import { Umzug } from 'umzug';
import { ensureMember } from './member';
import * as first from './migrations/0001-first';
import * as second from './migrations/0002-arrivals-from-everywhere';
import * as third from './migrations/0003-channels';
import * as fourth from './migrations/0004-appointments';
import * as fifth from './migrations/0005-identity';
import * as sixth from './migrations/0006-lookups';
import * as seventh from './migrations/0007-qualifying';
import * as eighth from './migrations/0008-deals';
import * as ninth from './migrations/0009-safety';
import * as tenth from './migrations/0010-import-files';
import * as eleventh from './migrations/0011-allowed-hosts';
import * as twelfth from './migrations/0012-followers';
import * as thirteenth from './migrations/0013-outbox';
import * as fourteenth from './migrations/0014-bounded-answers';
import * as fifteenth from './migrations/0015-visibility';
import * as sixteenth from './migrations/0016-bulk-load';
import * as seventeenth from './migrations/0017-locale';
import * as eighteenth from './migrations/0018-sorted-lists';
import * as nineteenth from './migrations/0019-places-and-ratings';
import * as twentieth from './migrations/0020-one-history';
import * as twentyFirst from './migrations/0021-notices';
import * as twentySecond from './migrations/0022-tasks';
import * as twentyThird from './migrations/0023-round';
import * as twentyFourth from './migrations/0024-presence';
import * as twentyFifth from './migrations/0025-meetings';
import * as twentySixth from './migrations/0026-history';
import * as twentySeventh from './migrations/0027-files';
import * as twentyEighth from './migrations/0028-after-the-deal';
import * as twentyNinth from './migrations/0029-personal-facts';
import * as thirtieth from './migrations/0030-outside-calendars';
import * as thirtyFirst from './migrations/0031-asked-colleagues';
import * as thirtySecond from './migrations/0032-series-exceptions';
import * as thirtyThird from './migrations/0033-queries';
import * as thirtyFourth from './migrations/0034-bulk-changes';
import * as thirtyFifth from './migrations/0035-view-layouts';
import * as thirtySixth from './migrations/0036-exports';
import * as thirtySeventh from './migrations/0037-sign-in';
import * as thirtyEighth from './migrations/0038-token-rights';
import * as thirtyNinth from './migrations/0039-own-fields';
import * as fortieth from './migrations/0040-accounts';
import * as fortyFirst from './migrations/0041-tags';
import * as fortySecond from './migrations/0042-open-id';
import * as fortyThird from './migrations/0043-erasing';
import * as fortyFourth from './migrations/0044-card-order';
import * as fortyFifth from './migrations/0045-places';
import * as fortySixth from './migrations/0046-roles';
import * as fortySeventh from './migrations/0047-views-of-work';
import * as fortyEighth from './migrations/0048-sign-in-rules';
import * as fortyNinth from './migrations/0049-terms';
import * as fiftieth from './migrations/0050-reading-fits';
import * as fiftyFirst from './migrations/0051-spellings';
import * as fiftySecond from './migrations/0052-told-apart';
import * as fiftyThird from './migrations/0053-letters';
import * as fiftyFourth from './migrations/0054-consent';
import * as fiftyFifth from './migrations/0055-opens-and-clicks';

export const MIGRATIONS = [
  first,
  second,
  third,
  fourth,
  fifth,
  sixth,
  seventh,
  eighth,
  ninth,
  tenth,
  eleventh,
  twelfth,
  thirteenth,
  fourteenth,
  fifteenth,
  sixteenth,
  seventeenth,
  eighteenth,
  nineteenth,
  twentieth,
  twentyFirst,
  twentySecond,
  twentyThird,
  twentyFourth,
  twentyFifth,
  twentySixth,
  twentySeventh,
  twentyEighth,
  twentyNinth,
  thirtieth,
  thirtyFirst,
  thirtySecond,
  thirtyThird,
  thirtyFourth,
  thirtyFifth,
  thirtySixth,
  thirtySeventh,
  thirtyEighth,
  thirtyNinth,
  fortieth,
  fortyFirst,
  fortySecond,
  fortyThird,
  fortyFourth,
  fortyFifth,
  fortySixth,
  fortySeventh,
  fortyEighth,
  fortyNinth,
  fiftieth,
  fiftyFirst,
  fiftySecond,
  fiftyThird,
  fiftyFourth,
  fiftyFifth,
];
/** Any constant will do, as long as every process of this program takes the same lock. */
const LOCK = 4600_0001;

/**
 * Brings the database up to the newest shape, each step in its own transaction. Safe to run from several processes at
 * once: an advisory lock lets one through and the others find the work done.
 * @returns the names of the migrations that ran
 */
export async function migrate(sequelize: Sequelize): Promise<string[]> {
  return sequelize.transaction(async (lock) => {
    await sequelize.query('SELECT pg_advisory_xact_lock(:key)', {
      replacements: { key: LOCK },
      transaction: lock,
    });
    await sequelize.query(
      'CREATE TABLE IF NOT EXISTS migrations (name text PRIMARY KEY, ran_at timestamptz NOT NULL DEFAULT now())',
      { transaction: lock },
    );
    const umzug = new Umzug({
      migrations: MIGRATIONS.map(({ name, up }) => ({
        name,
        up: async () => {
          await sequelize.query(up, { transaction: lock });
        },
      })),
      storage: {
        logMigration: async ({ name }) => {
          await sequelize.query('INSERT INTO migrations (name) VALUES (:name)', {
            replacements: { name },
            transaction: lock,
          });
        },
        unlogMigration: () => Promise.reject(new Error('migrations only go forward')),
        executed: async () => {
          const rows = await sequelize.query<{ name: string }>('SELECT name FROM migrations ORDER BY name', {
            type: QueryTypes.SELECT,
            transaction: lock,
          });
          return rows.map((row) => row.name);
        },
      },
      logger: undefined,
    });
    const ran = (await umzug.up()).map((one) => one.name);
    await ensureMember(sequelize, lock);
    return ran;
  });
}
