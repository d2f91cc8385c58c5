import { mkdtempSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
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
