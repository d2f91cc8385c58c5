import { performance } from 'node:perf_hooks';
import { readCallSheet } from '@emporikon/core/ledger/callSheet';
import { runInTransaction } from '@emporikon/server/commands/context';
import { Call, PhoneLine } from '@emporikon/server/db/models/calls';
import { takeEvent } from '@emporikon/server/calls/webhook';
import { callDetail } from '@emporikon/server/calls/caller';
import { openHouse } from './house';
import { sized } from './size';

const PEOPLE = sized(200_000, 300);
const CALLS = sized(60, 5);
const NOTE =
  'Ines Duarte, Padaria Sol, +351 910 555 014. wants 8 long bikes from March, budget about 40k, decides with her brother. send quote, lunch Thu 11-12';

const at = (times: number[], share: number): number =>
  times.sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0;

/** Every keystroke of a note, each with the whole note read anew. */
function keystrokes(): void {
  const options = { at: '2026-11-24T10:00:00+00:00', zone: 'Europe/London', country: 'GB', currency: 'EUR' };
  readCallSheet(NOTE, options);
  const times: number[] = [];
  for (let round = 0; round < 5; round++)
    for (let length = 1; length <= NOTE.length; length++) {
      const began = performance.now();
      readCallSheet(NOTE.slice(0, length), options);
      times.push(performance.now() - began);
    }
  process.stdout.write(
    `call sheet, a keystroke: median ${at(times, 0.5).toFixed(1)} ms, 99 in 100 within ${at(times, 0.99).toFixed(1)} ms, worst ${at(times, 1).toFixed(1)} ms (${times.length} keystrokes)\n`,
  );
}

/** From the webhook that says a line rings to everything its call sheet shows, among 200,000 people. */
async function callers(): Promise<void> {
  const { sequelize, tools, user } = await openHouse();
  await PhoneLine.create({ id: crypto.randomUUID(), userId: user.id, number: '+442079460100' });
  await sequelize.query(`
    INSERT INTO people (id, full_name, name_key, created_at, updated_at)
      SELECT gen_random_uuid(), 'Person ' || n, 'person ' || n, now(), now() FROM generate_series(1, ${PEOPLE}) n;
    INSERT INTO contact_points (id, person_id, kind, value, normalized, type, created_at)
      SELECT gen_random_uuid(), id, 'phone', 'x', '+3319900' || lpad((row_number() OVER ())::text, 7, '0'), 'work', now() FROM people;
    ANALYZE`);
  const times: number[] = [];
  const floors: number[] = [];
  for (let count = 0; count < CALLS; count++) {
    const data = {
      id: `bench-${count}`,
      direction: 'in',
      from: `+3319900${String(1 + count * 997).padStart(7, '0')}`,
      to: '+442079460100',
      startedAt: new Date().toISOString(),
    };
    let began = performance.now();
    await runInTransaction(tools, null, (context) =>
      takeEvent(context, data.id, { type: 'call.ringing', data }),
    );
    const call = await Call.findOne({ where: { exchangeId: data.id } });
    await runInTransaction(tools, null, (context) => callDetail(context, call?.id ?? ''));
    times.push(performance.now() - began);
    began = performance.now();
    await runInTransaction(tools, null, (context) =>
      context.sequelize.query('SELECT 1', { transaction: context.tx }),
    );
    floors.push(performance.now() - began);
  }
  const [median, floor] = [at(times, 0.5), at(floors, 0.5)];
  process.stdout.write(
    `incoming call, webhook to call sheet among ${PEOPLE} people: median ${median.toFixed(0)} ms, 95 in 100 within ${at(times, 0.95).toFixed(0)} ms, ratio ${(median / floor).toFixed(1)} to one empty transaction\n`,
  );
  await sequelize.close();
}

keystrokes();
await callers();
