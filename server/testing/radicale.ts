import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './port';

export const DAV_USER = 'pell';
export const DAV_PASSWORD = 'wheels-and-quays';
const AUTHORIZATION = `Basic ${Buffer.from(`${DAV_USER}:${DAV_PASSWORD}`).toString('base64')}`;

export interface Radicale {
  /** Where an account is found. */
  url: string;
  /** The calendar and the address book that it begins with. */
  calendar: string;
  book: string;
  /** Asks as another program would. */
  ask(method: string, url: string, body?: string, headers?: Record<string, string>): Promise<Response>;
  /** Puts an event into the calendar. */
  put(name: string, data: string): Promise<void>;
  get(name: string): Promise<string | null>;
  remove(name: string): Promise<void>;
  /** The files of the calendar, or the address book. */
  files(collection?: string): Promise<string[]>;
  stop(): Promise<void>;
}

const config = (folder: string, port: number): string => `
[server]
hosts = 127.0.0.1:${port}
[auth]
type = htpasswd
htpasswd_filename = ${folder}/users
htpasswd_encryption = plain
delay = 0
[storage]
filesystem_folder = ${folder}/collections
[logging]
level = warning
`;

const MAKE_CALENDAR = `<?xml version="1.0"?><C:mkcalendar xmlns:D="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav"><D:set><D:prop><D:displayname>Work</D:displayname>
<C:supported-calendar-component-set><C:comp name="VEVENT"/></C:supported-calendar-component-set></D:prop></D:set></C:mkcalendar>`;
const MAKE_BOOK = `<?xml version="1.0"?><D:mkcol xmlns:D="DAV:" xmlns:C="urn:ietf:params:xml:ns:carddav"><D:set><D:prop><D:displayname>Phone</D:displayname>
<D:resourcetype><D:collection/><C:addressbook/></D:resourcetype></D:prop></D:set></D:mkcol>`;

/** Debian's radicale as the server at the other end of CalDAV and CardDAV, with an account of its own in a temporary folder. */
export async function startRadicale(): Promise<Radicale> {
  const folder = mkdtempSync(join(tmpdir(), 'radicale-'));
  const port = await freePort();
  const url = `http://127.0.0.1:${port}/`;
  writeFileSync(join(folder, 'config'), config(folder, port));
  writeFileSync(join(folder, 'users'), `${DAV_USER}:${DAV_PASSWORD}\n`);
  const child = spawn('/usr/bin/radicale', ['--config', join(folder, 'config')], {
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
  for (let tries = 0; !(await fetch(url).catch(() => null)); tries++) {
    if (tries > 200)
      throw new Error(`radicale does not answer: ${said || readFileSync(join(folder, 'config'), 'utf8')}`);
    await new Promise((done) => setTimeout(done, 50));
  }
  const calendar = `${url}${DAV_USER}/work/`;
  const book = `${url}${DAV_USER}/phone/`;
  const ask: Radicale['ask'] = (method, at, body, headers = {}) =>
    fetch(at, { method, ...(body ? { body } : {}), headers: { authorization: AUTHORIZATION, ...headers } });
  const must = async (response: Promise<Response>): Promise<Response> => {
    const answer = await response;
    if (!answer.ok) throw new Error(`radicale answered ${answer.status}: ${await answer.text()}`);
    return answer;
  };
  await must(ask('MKCALENDAR', calendar, MAKE_CALENDAR));
  await must(ask('MKCOL', book, MAKE_BOOK));
  return {
    url,
    calendar,
    book,
    ask,
    async put(name, data) {
      await must(ask('PUT', `${calendar}${name}`, data, { 'content-type': 'text/calendar; charset=utf-8' }));
    },
    async get(name) {
      const answer = await ask('GET', `${calendar}${name}`);
      return answer.ok ? answer.text() : null;
    },
    async remove(name) {
      await must(ask('DELETE', `${calendar}${name}`));
    },
    async files(collection = calendar) {
      const answer = await must(ask('PROPFIND', collection, undefined, { depth: '1' }));
      const hrefs = [...(await answer.text()).matchAll(/<href>([^<]+\.(?:ics|vcf))<\/href>/g)];
      return hrefs.map(([, href = '']) => decodeURIComponent(href.split('/').at(-1) ?? '')).sort();
    },
    stop: () =>
      new Promise((done) => {
        child.once('exit', () => {
          rmSync(folder, { recursive: true, force: true });
          done();
        });
        child.kill('SIGTERM');
      }),
  };
}
