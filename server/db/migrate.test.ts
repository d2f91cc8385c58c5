import { QueryTypes } from 'sequelize';
import { databaseUrl, renewDatabase } from '../testing/harness';
import { loadFile } from '../imports/file';
import { connect } from './connect';
import { MIGRATIONS, migrate } from './migrate';
import { up } from './migrations/0001-first';

beforeEach(() => renewDatabase('empty'));

it('cuts the files of imports into pieces that are the same bytes', async () => {
  const sequelize = connect(databaseUrl(), 3);
  try {
    const before = MIGRATIONS.slice(
      0,
      MIGRATIONS.findIndex(({ name }) => name === '0010-import-files'),
    );
    await sequelize.query(
      'CREATE TABLE migrations (name text PRIMARY KEY, ran_at timestamptz NOT NULL DEFAULT now())',
    );
    for (const { name, up: change } of before) {
      await sequelize.query(change);
      await sequelize.query('INSERT INTO migrations (name) VALUES (:name)', { replacements: { name } });
    }
    const user = '00000000-0000-4000-8000-000000000002';
    await sequelize.query(
      `INSERT INTO users (id, name, email, role, password_hash, created_at) VALUES ('${user}', 'Ann', 'ann@b.example', 'rep', 'x', now());
       INSERT INTO imports (id, name, created_by, created_at, kind, state, raw)
         VALUES ('${user}', 'a.csv', '${user}', now(), 'table', 'mapping', decode(repeat('0123456789abcdef', 600000), 'hex'))`,
    );
    await migrate(sequelize);
    const raw = await loadFile({ sequelize }, user);
    expect(raw.equals(Buffer.from('0123456789abcdef'.repeat(600_000), 'hex'))).toBe(true);
  } finally {
    await sequelize.close();
  }
});

it('brings a database of the version before up to date, with what is in it', async () => {
  const sequelize = connect(databaseUrl(), 3);
  try {
    await sequelize.query(up);
    await sequelize.query(
      "CREATE TABLE migrations (name text PRIMARY KEY, ran_at timestamptz NOT NULL DEFAULT now()); INSERT INTO migrations (name) VALUES ('0001-first')",
    );
    const id = '00000000-0000-4000-8000-000000000001';
    await sequelize.query(
      `INSERT INTO captures (id, kind, media_type, sha256, raw, came_by, received_at, message)
         VALUES ('${id}', 'email', 'message/rfc822', repeat('a', 64), 'x', 'post', now(), '{"messageId":"<2@x.example>","references":["<1@x.example>"]}');
       INSERT INTO intents (id, capture_id, kind, text, value, confidence, span)
         VALUES ('${id}', '${id}', 'when', 'Thursday', '{"at":"2026-11-26","allDay":true}', 0.9, '{"part":"text","start":0,"end":8}');`,
    );
    expect(await migrate(sequelize)).toEqual(MIGRATIONS.slice(1).map((one) => one.name));
    const [row] = await sequelize.query<{ kind: string; message_id: string; thread: string }>(
      'SELECT i.kind, c.message_id, c.thread FROM intents i JOIN captures c ON c.id = i.capture_id',
      { type: QueryTypes.SELECT },
    );
    expect(row).toEqual({ kind: 'date', message_id: '<2@x.example>', thread: '<1@x.example>' });
    expect(await migrate(sequelize)).toEqual([]);
  } finally {
    await sequelize.close();
  }
});
