import {
  createAccount,
  createObject,
  davRequest,
  deleteObject,
  fetchAddressBooks,
  fetchCalendars,
  propfind,
  updateObject,
  type DAVResponse,
} from 'tsdav';
import type { Door } from './door';
import { davFetch, DavRefusal, DavTrouble } from './davFetch';
import { SignInRefused } from './imap';

export interface DavAccount {
  url: string;
  username: string;
  password: string;
}

/** A calendar or an address book of an account, by its address. */
export interface DavCollection {
  url: string;
  name: string;
}

/** A file of a collection: its path, and the mark that is another once it was changed. */
export interface DavEntry {
  href: string;
  etag: string;
}

export interface DavFile extends DavEntry {
  data: string;
}

/** What became of a file that was to be written or removed: `changed` where somebody changed it since. */
export type DavResult = { isDone: true; etag: string | null } | { isDone: false };

/** An account of a server that keeps calendars (CalDAV, RFC 4791) and address books (CardDAV, RFC 6352). */
export interface Dav {
  calendars(): Promise<DavCollection[]>;
  addressBooks(): Promise<DavCollection[]>;
  /** A mark of a collection that is another once anything in it was changed; empty where the server has none. */
  mark(collection: string): Promise<string>;
  /** The events of a calendar that touch a stretch of time; ISO 8601. */
  list(collection: string, from: string, until: string): Promise<DavEntry[]>;
  /** Files by their paths; those that are gone are left out. */
  read(collection: string, hrefs: readonly string[]): Promise<DavFile[]>;
  /** Writes a file that is still as its etag says, or is not there yet where none is given. */
  put(url: string, data: string, type: string, etag: string | null): Promise<DavResult>;
  /** Removes a file that is still as its etag says; one that is gone is removed. */
  remove(url: string, etag: string | null): Promise<DavResult>;
}

const utc = (iso: string): string => new Date(iso).toISOString().replace(/[-:]|\.\d{3}/g, '');
const BATCH = 50;

/** Without the mark of a weak one: that is what compressing servers make of a strong one, and none may be compared by. */
const strong = (etag: string): string => etag.replace(/^W\//, '');

/** What a server says of a property: text, or text that it quotes as a whole. */
function textOf(value: unknown): string {
  if (typeof value === 'string' || typeof value === 'number') return String(value);
  const { _cdata: quoted } = (value ?? {}) as { _cdata?: unknown };
  return typeof quoted === 'string' ? quoted : '';
}

const hasMultistatus = (raw: unknown): boolean =>
  typeof raw === 'object' && raw !== null && 'multistatus' in raw;

/** The answers about single files, or trouble where the server's answer is none of that kind. */
function answersOf(responses: readonly DAVResponse[], host: string): DAVResponse[] {
  const [first] = responses;
  if (first?.status === 401) throw new SignInRefused(`${host} does not take the name and password.`);
  if (first?.status === 403) throw new SignInRefused(`${host} does not let you read this.`);
  if (!first || !hasMultistatus(first.raw))
    throw new DavTrouble(
      first && first.status >= 400
        ? `${host} answered ${first.status}.`
        : `${host} gave an answer that makes no sense for a calendar.`,
    );
  return responses.filter(({ href }) => typeof href === 'string' && href !== '');
}

/** Servers write one path with and without encoding; they are compared without. */
function pathOf(href: string, collection: string): string {
  const { pathname } = new URL(href, collection);
  try {
    return decodeURIComponent(pathname);
  } catch {
    return pathname;
  }
}

/** The address of a file by its path. */
export const davUrl = (path: string, collection: string): string =>
  new URL(path.split('/').map(encodeURIComponent).join('/'), collection).href;

const etagOf = (response: Response): string | null => {
  const etag = response.headers.get('etag');
  return etag ? strong(etag) : null;
};

function resultOf(response: Response, host: string, isGoneFine: boolean): DavResult {
  if (response.ok) return { isDone: true, etag: etagOf(response) };
  if (isGoneFine && (response.status === 404 || response.status === 410)) return { isDone: true, etag: null };
  if (response.status === 412 || response.status === 409 || response.status === 404) return { isDone: false };
  if (response.status === 401) throw new SignInRefused(`${host} does not take the name and password.`);
  throw new DavRefusal(
    response.status === 403
      ? `${host} does not let you change this.`
      : `${host} answered ${response.status} when something was to be written.`,
  );
}

export function openDav(account: DavAccount, door: Door): Dav {
  const fetch = davFetch(account, door);
  const { host } = new URL(account.url);
  const params = { fetch };

  /** Whether the address that was given is a collection itself, and of which kind. */
  async function kindOf(url: string): Promise<{ kinds: string[]; name: string }> {
    const [answer] = await propfind({
      url,
      props: { 'd:resourcetype': {}, 'd:displayname': {} },
      depth: '0',
      ...params,
    });
    if (answer?.status === 401) throw new SignInRefused(`${host} does not take the name and password.`);
    const type: unknown = answer?.props?.resourcetype;
    return {
      kinds: typeof type === 'object' && type !== null ? Object.keys(type) : [],
      name: textOf(answer?.props?.displayname),
    };
  }

  async function find(accountType: 'caldav' | 'carddav'): Promise<DavCollection[]> {
    const itself = await kindOf(account.url);
    if (itself.kinds.includes(accountType === 'caldav' ? 'calendar' : 'addressbook'))
      return [{ url: new URL(account.url).href, name: itself.name || 'Calendar' }];
    const found = await createAccount({ account: { serverUrl: account.url, accountType }, ...params }).catch(
      (error: unknown) => {
        if (error instanceof DavTrouble || error instanceof SignInRefused) throw error;
        throw new DavTrouble(
          `No ${accountType === 'caldav' ? 'calendar' : 'address book'} was found at ${account.url}.`,
        );
      },
    );
    const collections =
      accountType === 'caldav'
        ? (await fetchCalendars({ account: found, ...params })).filter(
            ({ components }) => !components?.length || components.includes('VEVENT'),
          )
        : await fetchAddressBooks({ account: found, ...params });
    return collections.map(({ url, displayName }) => ({
      url: new URL(url, account.url).href,
      name: textOf(displayName) || decodeURIComponent(url.split('/').filter(Boolean).at(-1) ?? url),
    }));
  }

  /**
   * A question about the files of a collection (RFC 4791, 7.8 and 7.9), asked plainly: an answer that says of one file that it
   * is gone is an answer.
   */
  async function report(
    url: string,
    name: 'calendar-query' | 'calendar-multiget',
    body: object,
  ): Promise<DAVResponse[]> {
    const spaces = { 'xmlns:d': 'DAV:', 'xmlns:c': 'urn:ietf:params:xml:ns:caldav' };
    const init = {
      method: 'REPORT' as const,
      namespace: 'c',
      headers: { depth: '1' },
      body: { [name]: { _attributes: spaces, ...body } },
    };
    return answersOf(await davRequest({ url, init, ...params }), host);
  }

  return {
    calendars: () => find('caldav'),
    addressBooks: () => find('carddav'),
    async mark(collection) {
      const [answer] = answersOf(
        await propfind({
          url: collection,
          props: { 'cs:getctag': {}, 'd:sync-token': {} },
          depth: '0',
          ...params,
        }),
        host,
      );
      return textOf(answer?.props?.getctag) || textOf(answer?.props?.syncToken);
    },
    async list(collection, from, until) {
      const answers = await report(collection, 'calendar-query', {
        'd:prop': { 'd:getetag': {} },
        filter: {
          'comp-filter': {
            _attributes: { name: 'VCALENDAR' },
            'comp-filter': {
              _attributes: { name: 'VEVENT' },
              'time-range': { _attributes: { start: utc(from), end: utc(until) } },
            },
          },
        },
      });
      return answers.flatMap(({ href = '', props, ok }) => {
        const etag = strong(textOf(props?.getetag));
        return ok && etag ? [{ href: pathOf(href, collection), etag }] : [];
      });
    },
    async read(collection, hrefs) {
      const files: DavFile[] = [];
      for (let from = 0; from < hrefs.length; from += BATCH) {
        const answers = await report(collection, 'calendar-multiget', {
          'd:prop': { 'd:getetag': {}, 'calendar-data': {} },
          'd:href': hrefs.slice(from, from + BATCH).map((href) => new URL(davUrl(href, collection)).pathname),
        });
        for (const { href = '', props, ok } of answers) {
          const [etag, data] = [strong(textOf(props?.getetag)), textOf(props?.calendarData)];
          if (ok && etag && data) files.push({ href: pathOf(href, collection), etag, data });
        }
      }
      return files;
    },
    async put(url, data, type, etag) {
      const headers = { 'content-type': type };
      const response = etag
        ? await updateObject({ url, data, etag, headers, ...params })
        : await createObject({ url, data, headers: { ...headers, 'If-None-Match': '*' }, ...params });
      return resultOf(response, host, false);
    },
    async remove(url, etag) {
      return resultOf(await deleteObject({ url, ...(etag ? { etag } : {}), ...params }), host, true);
    },
  };
}
