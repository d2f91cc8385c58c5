import { connect } from '@emporikon/server/db/connect';
import { fillBook, MILLION } from './book/fill';
import { sized } from './size';

/** Fills the kept database anew: `npm run bench book [people]`. */
async function main(): Promise<void> {
  const people = Number(process.argv[2] ?? sized(MILLION.people, 2000));
  const share = people / MILLION.people;
  const size = {
    ...MILLION,
    people,
    companies: Math.ceil(MILLION.companies * share),
    deals: Math.ceil(MILLION.deals * share),
    history: {
      entries: Math.ceil(MILLION.history.entries * share),
      leads: Math.ceil(MILLION.history.leads * share),
      tasks: Math.ceil(MILLION.history.tasks * share),
      waiting: Math.ceil(MILLION.history.waiting * share),
      cases: Math.ceil(MILLION.history.cases * share),
      changes: Math.ceil(MILLION.history.changes * share),
    },
  };
  const sequelize = connect(process.env.TEST_DATABASE_URL ?? '', 3);
  await fillBook(sequelize, size, (text) => process.stdout.write(`${text}\n`));
  await sequelize.close();
}

void main();
