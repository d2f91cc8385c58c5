import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { main } from './main';

let folder: string;
let out: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'emporikon-cli-'));
  out = '';
  for (const stream of [process.stdout, process.stderr])
    jest.spyOn(stream, 'write').mockImplementation((chunk) => {
      out += String(chunk);
      return true;
    });
});
afterEach(() => {
  jest.restoreAllMocks();
  rmSync(folder, { recursive: true });
});
const file = (name: string, text: string): string => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};

describe('emporikon read', () => {
  it('prints one JSON object a line, with file, kind, claims and intents', async () => {
    const path = file(
      'a.eml',
      'From: Ines Duarte <ines@padariasol.example>\r\nDate: Mon, 23 Nov 2026 16:40:00 +0000\r\n\r\nWe need 8 bikes.\r\n',
    );
    expect(await main(['read', '--json', path, path])).toBe(0);
    const lines = out
      .trim()
      .split('\n')
      .map(
        (line) =>
          JSON.parse(line) as {
            file: string;
            kind: string;
            claims: { field: string }[];
            intents: { kind: string }[];
          },
      );
    expect(lines).toHaveLength(2);
    expect(lines[0]).toMatchObject({ file: path, kind: 'email' });
    expect(lines[0]?.claims.map((claim) => claim.field)).toEqual(['fullName', 'email']);
    expect(lines[0]?.intents.map((intent) => intent.kind)).toContain('quantity');
  });
  it('says so of a file that is missing or too large, and reads the others', async () => {
    const large = file('large.eml', '');
    truncateSync(large, 25 * 1024 * 1024);
    expect(await main(['read', '--json', join(folder, 'none.eml'), large, file('b.eml', '')])).toBe(1);
    expect(
      out
        .trim()
        .split('\n')
        .map((line) => (JSON.parse(line) as { kind: string }).kind),
    ).toEqual(['refused', 'refused', 'text']);
  });
  it('explains itself when used wrongly', async () => {
    expect([
      await main(['read']),
      await main(['read', '--nothing']),
      await main(['reed']),
      await main([]),
    ]).toEqual([2, 2, 2, 0]);
    expect(out).toContain('which file?');
  });
});

describe('emporikon match', () => {
  const book = (people: number): string => {
    const rows = Array.from({ length: people }, (_, at) => {
      const name = `${String.fromCharCode(65 + (at % 26))}${'aeiou'[at % 5] ?? ''}l${at}a,Family${(at * 7) % 997}`;
      const mail = `p${at}@firm${at % 90}.example`;
      return `x${at},${name},${mail}\ny${at},${name.toUpperCase()},${at % 2 ? mail : ''}`;
    });
    return `Id,First name,Last name,Email\n${rows.join('\n')}\n`;
  };

  it('prints the pairs that may be one person, surest first, by the ids of the rows', async () => {
    expect(await main(['match', file('a.csv', book(60))])).toBe(0);
    const [head, ...pairs] = out.trim().split('\n');
    expect(head).toBe('id_a,id_b,probability');
    const sure = pairs.map((line) => line.split(',')).filter(([, , p]) => Number(p) >= 0.5);
    expect(sure.map(([a, b]) => [a, b].sort().join('~')).sort()).toEqual(
      Array.from({ length: 60 }, (_, at) => `x${at}~y${at}`).sort(),
    );
    const probabilities = pairs.map((line) => Number(line.split(',')[2]));
    expect(probabilities).toEqual([...probabilities].sort((a, b) => b - a));
  });
  it('spreads a large table over threads, and finds the same', async () => {
    const path = file('b.csv', book(1500));
    const pairs = join(folder, 'pairs.csv');
    const run = promisify(execFile);
    const { stderr } = await run(process.execPath, ['cli/bin/emporikon.mjs', 'match', '--out', pairs, path]);
    expect(stderr).toContain('among 3000 rows');
    const found = readFileSync(pairs, 'utf8')
      .trim()
      .split('\n')
      .slice(1)
      .map((line) => line.split(','));
    const right = found.filter(([a = '', b = '', p]) => Number(p) >= 0.5 && a.slice(1) === b.slice(1));
    expect(right).toHaveLength(1500);
    expect(found.filter(([, , p]) => Number(p) >= 0.5)).toHaveLength(1500);
  }, 60_000);
  it('says what is wrong with a file', async () => {
    expect(await main(['match'])).toBe(2);
    expect(await main(['match', join(folder, 'none.csv')])).toBe(1);
    expect(await main(['match', file('empty.csv', '')])).toBe(1);
    expect(out).toContain('there is nothing in it');
    expect(await main(['match', file('same.csv', 'colour\nred\nred\n')])).toBe(1);
    expect(out).toContain('no column in it tells one person from another');
  });
});

describe('emporikon turn', () => {
  const asked = JSON.stringify({
    at: '2026-11-02T09:00:00Z',
    side: 'theirs',
    kind: 'mail',
    text: 'How much is it?',
  });
  it('prints one JSON object a file, and goes on after one that it cannot read', async () => {
    const [good, bad] = [file('a.jsonl', asked), file('b.jsonl', 'nonsense')];
    expect(await main(['turn', '--json', bad, good])).toBe(1);
    expect(
      out
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line) as unknown),
    ).toEqual([
      { file: bad, error: 'line 1: no JSON' },
      { file: good, turn: 'ours', since: '2026-11-02T09:00:00Z', why: 'they asked: How much is it?' },
    ]);
  });

  it('what was said after the time it is asked about does not count', async () => {
    expect(await main(['turn', '--at', '2026-11-01T00:00:00Z', file('a.jsonl', asked)])).toBe(0);
    expect(out).toContain('nobody, nothing said yet');
  });

  it('refuses a wrong option and no file', async () => {
    expect([
      await main(['turn']),
      await main(['turn', '--at', 'soon', 'x']),
      await main(['turn', '--x']),
    ]).toEqual([2, 2, 2]);
  });
});
