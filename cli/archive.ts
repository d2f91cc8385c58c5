import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { chmod, mkdir, open, readFile, readdir, rename, rm, writeFile } from 'node:fs/promises';
import { join, normalize, sep } from 'node:path';
import { createInterface } from 'node:readline';
import { once } from 'node:events';
import pg from 'pg';
import {
  ask,
  BackupTrouble,
  FORGET_TRANSACTIONS,
  isEmpty,
  MEMBER_ROLES,
  runProgram,
  runTool,
  withFolder,
} from './postgres';

/** What stands in an archive: `manifest.json`, `schema/`, a file of JSON Lines a table, and bytes as files of their own. */
interface Manifest {
  emporikon: 'archive';
  format: 1;
  madeAt: string;
  /** The last migration that the database had. */
  shape: string;
  tables: { name: string; rows: number }[];
  /** SHA-256 of every file in it, by its path. */
  sha256: Record<string, string>;
}

/** Bytes stand in files under a name that can be opened, and their rows say where. */
interface Bytes {
  column: string;
  folder: string;
  /** The name of the file, of the row without its bytes; rows of one name stand one after the other in it. */
  file: (row: Record<string, unknown>) => string;
  /** How such rows are ordered, so that their pieces make the whole. */
  order: string;
}
const ENDINGS: Readonly<Record<string, string>> = {
  email: '.eml',
  page: '.html',
  card: '.vcf',
  call: '.json',
  form: '.json',
};
const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const BYTES: Readonly<Record<string, Bytes>> = {
  captures: {
    ...{ column: 'raw', folder: 'originals', order: 'id' },
    file: ({ id, kind }) => `${text(id)}${ENDINGS[text(kind)] ?? '.txt'}`,
  },
  file_parts: {
    ...{ column: 'bytes', folder: 'files', order: 'sha256, position' },
    file: ({ sha256 }) => text(sha256),
  },
  import_parts: {
    ...{ column: 'bytes', folder: 'imports', order: 'import_id, position' },
    file: ({ import_id: id }) => text(id),
  },
  export_parts: {
    ...{ column: 'bytes', folder: 'exports', order: 'export_id, position' },
    file: ({ export_id: id }) => text(id),
  },
};

interface Table {
  name: string;
  /** Without those that the database makes of others. */
  columns: string[];
}

const TABLES = `SELECT c.relname AS name, array_agg(a.attname::text ORDER BY a.attnum) AS columns
  FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped AND a.attgenerated = ''
 WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace GROUP BY 1 ORDER BY 1`;
const PAGE = 500;
const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;

/** Writes one table, and its bytes beside it. @returns how many rows it has */
async function writeTable(client: pg.Client, folder: string, { name, columns }: Table): Promise<number> {
  const bytes = BYTES[name];
  const plain = columns.filter((column) => column !== bytes?.column);
  const picked = plain.map((column) => `'${column}', t.${quoted(column)}`);
  // A function takes a hundred arguments.
  const parts = Array.from(
    { length: Math.ceil(picked.length / 40) },
    (_, at) => `jsonb_build_object(${picked.slice(at * 40, at * 40 + 40).join(', ')})`,
  );
  const out = createWriteStream(join(folder, 'tables', `${name}.jsonl`));
  await client.query(
    `DECLARE page NO SCROLL CURSOR FOR SELECT (${parts.join(' || ')})::text AS row${bytes ? `, t.${bytes.column} AS bytes` : ''}
       FROM ${quoted(name)} t${bytes ? ` ORDER BY ${bytes.order}` : ''}`,
  );
  let count = 0;
  const size = bytes ? 1 : PAGE;
  for (;;) {
    const { rows } = await client.query<{ row: string; bytes?: Buffer }>(`FETCH ${size} FROM page`);
    for (const { row, bytes: raw } of rows) {
      const line = bytes && raw ? await withBytes(folder, bytes, row, raw) : row;
      if (!out.write(`${line}\n`)) await once(out, 'drain');
    }
    count += rows.length;
    if (rows.length < size) break;
  }
  await client.query('CLOSE page');
  out.end();
  await once(out, 'finish');
  return count;
}

/** Appends the bytes to their file. @returns the row with the place they stand at */
async function withBytes(
  folder: string,
  { column, folder: place, file }: Bytes,
  row: string,
  raw: Buffer,
): Promise<string> {
  const name = `${place}/${file(JSON.parse(row) as Record<string, unknown>)}`;
  const handle = await open(join(folder, name), 'a');
  try {
    const { size } = await handle.stat();
    await handle.write(raw);
    // Numbers of any length stay as the database wrote them: the row is not written anew.
    return `${row.slice(0, -1)}, ${JSON.stringify(column)}: ${JSON.stringify({ file: name, at: size, length: raw.length })}}`;
  } finally {
    await handle.close();
  }
}

async function hashFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

async function hashAll(folder: string): Promise<Record<string, string>> {
  const found = await readdir(folder, { recursive: true, withFileTypes: true });
  const hashes: Record<string, string> = {};
  for (const entry of found.filter((one) => one.isFile())) {
    const path = join(entry.parentPath, entry.name);
    const name = path
      .slice(folder.length + 1)
      .split(sep)
      .join('/');
    if (name !== 'manifest.json') hashes[name] = await hashFile(path);
  }
  return hashes;
}

const README = `manifest.json  what is in here, with the SHA-256 of every file
tables/        a table a file, a row a line of JSON (jsonlines.org); bytes stand beside, where the row says
originals/     messages, pages, cards and forms as they came in
files/         files on records, by the SHA-256 of their content
imports/       files that were imported
schema/        the shape of the database as SQL, to bring it back in
Accounts are in it with their passwords hashed. Keep it as you would keep the passwords.
`;

/** Writes everything of one moment of a database in open formats. @returns how much it is */
export async function archive(
  file: string,
  databaseUrl: string,
): Promise<{ tables: number; rows: number; files: number }> {
  return withFolder(async (folder) => {
    for (const part of ['tables', 'schema', ...Object.values(BYTES).map((bytes) => bytes.folder)])
      await mkdir(join(folder, part));
    const client = new pg.Client({ connectionString: databaseUrl });
    await client.connect();
    const tables: Manifest['tables'] = [];
    try {
      await client.query("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY; SET LOCAL TIME ZONE 'UTC'");
      const { rows: found } = await client.query<Table>(TABLES);
      for (const table of found)
        tables.push({ name: table.name, rows: await writeTable(client, folder, table) });
      const { rows: shapes } = await client.query<{ name: string }>(
        'SELECT max(name) AS name FROM migrations',
      );
      for (const section of ['pre-data', 'post-data'])
        await runProgram(
          'pg_dump',
          [
            `--section=${section}`,
            '--no-owner',
            '--no-privileges',
            '--exclude-schema=graphile_worker',
            `--file=${join(folder, 'schema', `${section}.sql`)}`,
          ],
          databaseUrl,
        );
      await client.query('COMMIT');
      await writeFile(join(folder, 'README.txt'), README);
      const manifest: Manifest = {
        emporikon: 'archive',
        format: 1,
        madeAt: new Date().toISOString(),
        shape: shapes[0]?.name ?? '',
        tables,
        sha256: await hashAll(folder),
      };
      await writeFile(join(folder, 'manifest.json'), `${JSON.stringify(manifest, null, 2)}\n`);
      // Written beside it first: an archive that was cut off never stands under the name of a whole one.
      await runTool('tar', ['-czf', `${file}.part`, '-C', folder, '.']);
      await chmod(`${file}.part`, 0o600);
      await rename(`${file}.part`, file);
      const files = Object.keys(manifest.sha256).filter((name) =>
        /^(?:originals|files|imports)\//.test(name),
      ).length;
      return { tables: tables.length, rows: tables.reduce((sum, { rows }) => sum + rows, 0), files };
    } finally {
      await client.end();
      await rm(`${file}.part`, { force: true });
    }
  });
}

/** @throws BackupTrouble for what is no archive, or is not what its manifest says */
async function checkArchive(folder: string, file: string): Promise<Manifest> {
  const said = await readFile(join(folder, 'manifest.json'), 'utf8').catch(() => '');
  let manifest: Manifest | null = null;
  try {
    manifest = JSON.parse(said) as Manifest;
  } catch {
    throw new BackupTrouble(`${file} is not an archive of Emporikon.`);
  }
  if (manifest.emporikon !== 'archive' || manifest.format !== 1)
    throw new BackupTrouble(`${file} is not an archive this version can read.`);
  const found = await hashAll(folder);
  const names = new Set([...Object.keys(found), ...Object.keys(manifest.sha256)]);
  const wrong = [...names].find((name) => found[name] !== manifest.sha256[name]);
  if (wrong)
    throw new BackupTrouble(`${wrong} in ${file} is not what the manifest says. Nothing was restored.`);
  return manifest;
}

interface Place {
  file: string;
  at: number;
  length: number;
}

/** The bytes a row says where they stand, as PostgreSQL writes them. Only files of the archive are read. */
async function bytesAt(folder: string, { file, at, length }: Place): Promise<string> {
  const path = normalize(join(folder, file));
  if (!path.startsWith(`${folder}${sep}`)) throw new BackupTrouble(`${file} stands outside of the archive.`);
  const handle = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, at);
    if (bytesRead !== length) throw new BackupTrouble(`${file} is shorter than its rows say.`);
    return `\\x${buffer.toString('hex')}`;
  } finally {
    await handle.close();
  }
}

async function readTable(client: pg.Client, folder: string, { name, columns }: Table): Promise<number> {
  const bytes = BYTES[name];
  const listed = columns.map(quoted).join(', ');
  const sql = `INSERT INTO ${quoted(name)} (${listed}) OVERRIDING SYSTEM VALUE
    SELECT ${listed} FROM jsonb_populate_recordset(NULL::${quoted(name)}, $1::jsonb)`;
  const MOST_CHARACTERS = 4_000_000;
  let batch: string[] = [];
  let [size, count] = [0, 0];
  const flush = async (): Promise<void> => {
    if (batch.length) await client.query(sql, [`[${batch.join(',')}]`]);
    [batch, size] = [[], 0];
  };
  for await (const line of createInterface({
    input: createReadStream(join(folder, 'tables', `${name}.jsonl`)),
  })) {
    if (!line) continue;
    const place = bytes && (JSON.parse(line) as Record<string, Place>)[bytes.column];
    const row =
      bytes && place
        ? `${line.slice(0, line.lastIndexOf(`, ${JSON.stringify(bytes.column)}: {`))}, ${JSON.stringify(bytes.column)}: ${JSON.stringify(await bytesAt(folder, place))}}`
        : line;
    batch.push(row);
    size += row.length;
    count++;
    if (batch.length >= PAGE || size > MOST_CHARACTERS) await flush();
  }
  await flush();
  return count;
}

/** Numbers that the database gives itself go on after the last that is there. */
const GO_ON = `SELECT format('SELECT setval(%L, greatest(1, (SELECT coalesce(max(%I), 0) FROM %I)))', pg_get_serial_sequence(quote_ident(c.relname), a.attname), a.attname, c.relname) AS sql
  FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0
 WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace AND pg_get_serial_sequence(quote_ident(c.relname), a.attname) IS NOT NULL`;

/**
 * Checks an archive and puts all of it into an empty database, or nothing. What refers to what is checked by the database
 * once everything is in.
 */
export async function unarchive(
  file: string,
  databaseUrl: string,
): Promise<{ tables: number; rows: number }> {
  if (!(await isEmpty(databaseUrl)))
    throw new BackupTrouble('This database is not empty. Use a new one, so that nothing is overwritten.');
  return withFolder(async (folder) => {
    await runTool('tar', ['-xzf', file, '-C', folder, '--no-same-owner']).catch(() => {
      throw new BackupTrouble(`${file} is damaged or is not an archive of Emporikon.`);
    });
    const manifest = await checkArchive(folder, file);
    await ask(databaseUrl, MEMBER_ROLES);
    const client = new pg.Client({ connectionString: databaseUrl });
    await client.connect();
    try {
      await client.query('BEGIN');
      // Lines for psql alone, which newer versions of pg_dump write, are no SQL.
      const script = async (name: string): Promise<string> =>
        (await readFile(join(folder, 'schema', `${name}.sql`), 'utf8')).replace(/^\\.*$/gm, '');
      await client.query(await script('pre-data'));
      await client.query("SET search_path = public; SET LOCAL TIME ZONE 'UTC'");
      const { rows: found } = await client.query<Table>(TABLES);
      let rows = 0;
      for (const table of found) rows += await readTable(client, folder, table);
      for (const { sql } of (await client.query<{ sql: string }>(GO_ON)).rows) await client.query(sql);
      await client.query(await script('post-data'));
      await client.query('COMMIT');
      await ask(databaseUrl, FORGET_TRANSACTIONS);
      return { tables: manifest.tables.length, rows };
    } catch (error) {
      await client.query('ROLLBACK').catch(() => undefined);
      throw error;
    } finally {
      await client.end();
    }
  });
}
