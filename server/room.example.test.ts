import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, posix } from 'node:path';
import { allRoutes } from '@emporikon/contract';
import type { RouteSpec } from '@emporikon/contract/common';
import type { Sequelize } from 'sequelize';
import { buildApp } from './http/app';
import { LiveFeed } from './events/live';
import type { Room } from './http/room';
import { installed, rooms } from './rooms';
import { databaseUrl, openHouse, PASSWORD, type House } from './testing/harness';

/** The page is followed to the letter: what stands in it is what is checked and run. */
const PAGE = readFileSync('docs/how-to-add-a-room.md', 'utf8');
const FILES = new Map(
  [...PAGE.matchAll(/^```(?:ts|vue) (\S+)\n([^]*?)^```$/gm)].map(([, path = '', text = '']) => [path, text]),
);
const PLACE = join(process.cwd(), 'server/testing/.example');

/** What declares to the types what the program adds to its packages. */
const PROGRAM = ['server/main.ts', 'core/reading/vader.d.ts', 'server/pino-roll.d.ts'].map((path) =>
  join(process.cwd(), path),
);

/** Imports of files that are not on the page are those of the program. */
const placed = (path: string, text: string): string =>
  text.replace(/from '(\.[^']*)'/g, (whole, to: string) => {
    const target = posix.normalize(posix.join(posix.dirname(path), to));
    return FILES.has(`${target}.ts`) ? whole : `from '${join(process.cwd(), target)}'`;
  });

beforeAll(() => {
  for (const [path, text] of FILES) {
    mkdirSync(dirname(join(PLACE, path)), { recursive: true });
    writeFileSync(join(PLACE, path), placed(path, text));
  }
});
afterAll(() => rmSync(PLACE, { recursive: true, force: true }));

it('takes fewer than 150 lines', () => {
  const lines = [...FILES.values()].flatMap((text) => text.split('\n').filter((line) => line.trim()));
  expect([...FILES.keys()]).toContain('server/greetings/room.ts');
  expect(lines.length).toBeGreaterThan(80);
  expect(lines.length).toBeLessThan(150);
});

it('is sound in its types', () => {
  // The routes are listed in the contract, as the page says.
  const listed = readFileSync('contract/index.ts', 'utf8')
    .replace('  ...eventRoutes,', '  ...eventRoutes,\n  ...greetingRoutes,')
    .replace(/^import/m, "import { greetingRoutes } from './greetings';\nimport");
  writeFileSync(join(PLACE, 'contract/index.ts'), placed('contract/index.ts', listed));
  const config = {
    extends: join(process.cwd(), 'tsconfig.json'),
    files: [...[...FILES.keys()].filter((path) => path.endsWith('.ts')), ...PROGRAM],
    include: [],
    compilerOptions: { paths: { '@emporikon/contract': [join(PLACE, 'contract/index.ts')] } },
  };
  writeFileSync(join(PLACE, 'tsconfig.json'), JSON.stringify(config));
  const { stdout, status } = spawnSync('npx', ['tsc', '-p', PLACE, '--noEmit'], { encoding: 'utf8' });
  expect([stdout, status]).toEqual(['', 0]);
}, 120_000);

describe('once it is listed', () => {
  let house: House;
  let app: Awaited<ReturnType<typeof buildApp>>;
  let cookie = '';
  const load = async <Exports>(path: string): Promise<Exports> =>
    (await import(join(PLACE, path))) as Exports;

  beforeAll(async () => {
    house = await openHouse();
    const { greetingRoutes } = await load<{ greetingRoutes: Record<string, RouteSpec> }>(
      'contract/greetings.ts',
    );
    Object.assign(allRoutes, greetingRoutes);
    const { up } = await load<{ up: string }>('server/db/migrations/0099-greetings.ts');
    await house.sequelize.query(up);
    const { defineGreetingModels } = await load<{ defineGreetingModels: (sequelize: Sequelize) => void }>(
      'server/db/models/greetings.ts',
    );
    defineGreetingModels(house.tools.sequelize);
    const { greetings } = await load<{ greetings: Room }>('server/greetings/room.ts');
    const tools = { ...house.tools, tables: [...installed.tables, ...(greetings.tables ?? [])] };
    app = await buildApp({
      tools,
      rooms: [...rooms, greetings],
      live: new LiveFeed(databaseUrl()),
      webRoot: null,
    });
    const signedIn = await app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { email: 'pell@wharfside.example', password: PASSWORD },
    });
    cookie = String(signedIn.headers['set-cookie']).split(';')[0] ?? '';
  });
  afterAll(async () => {
    await app.close();
    await house.close();
  });

  const ask = async <Answer>(
    method: 'GET' | 'POST',
    url: string,
    payload?: object,
  ): Promise<{ status: number; body: Answer }> => {
    const answer = await app.inject({ method, url, headers: { cookie }, ...(payload ? { payload } : {}) });
    return { status: answer.statusCode, body: answer.json<Answer>() };
  };
  const person = async (fullName: string): Promise<string> =>
    (await ask<{ person: { id: string } }>('POST', '/api/people', { fullName })).body.person.id;
  const wordsTo = async (personId: string, query = ''): Promise<string[]> =>
    (
      await ask<{ items: { words: string }[] }>('GET', `/api/greetings?personId=${personId}${query}`)
    ).body.items.map(({ words }) => words);

  it('greets, pages, refuses what is wrong, and is taken back like everything else', async () => {
    const ann = await person('Ann Reed');
    const first = await ask<{ eventId: string }>('POST', '/api/greetings', { personId: ann, words: 'Hello' });
    expect(first.status).toBe(201);
    const second = await ask<{ eventId: string }>('POST', '/api/greetings', {
      personId: ann,
      words: 'Good day',
    });
    expect(await wordsTo(ann)).toEqual(['Good day', 'Hello']);
    expect(await wordsTo(ann, '&limit=1')).toEqual(['Good day']);
    expect((await ask('POST', '/api/greetings', { personId: ann, words: 'two\nlines' })).status).toBe(422);
    const undone = await ask('POST', `/api/events/${second.body.eventId}/undo`);
    expect([undone.status, await wordsTo(ann)]).toEqual([200, ['Hello']]);
  });

  it('goes along when two people become one, and comes back when they are parted', async () => {
    const [kept, gone] = [await person('Bo Twice'), await person('Bo Twice')];
    await ask('POST', '/api/greetings', { personId: gone, words: 'Welcome' });
    const merged = await ask<{ eventId: string }>('POST', '/api/merges', {
      kind: 'person',
      survivorId: kept,
      mergedIds: [gone],
    });
    expect([merged.status, await wordsTo(kept)]).toEqual([201, ['Welcome']]);
    await ask('POST', `/api/events/${merged.body.eventId}/undo`);
    expect([await wordsTo(kept), await wordsTo(gone)]).toEqual([[], ['Welcome']]);
  });
});
