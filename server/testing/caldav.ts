import type { CalendarLink } from '@emporikon/contract/caldav';
import type { CalendarItem } from '@emporikon/contract/meetings';
import { DAV_PASSWORD, DAV_USER, startRadicale, type Radicale } from './radicale';
import { openHouse, type Client, type House } from './harness';

/** A house whose Pell keeps a calendar on a server elsewhere. */
export interface CalendarHouse {
  house: House;
  pell: Client;
  mara: Client;
  radicale: Radicale;
  /** Adds the account, at its own address or through another port. */
  link(url?: string): Promise<string>;
  /** Brings both in step and gives back how the account is. */
  sync(): Promise<CalendarLink>;
}

/** Filled before the first test of a file. */
export function useCalendarHouse(): CalendarHouse {
  const use = {} as CalendarHouse;
  beforeAll(async () => {
    use.radicale = await startRadicale();
    use.house = await openHouse({ door: { allowed: ['127.0.0.1:*'] } });
    use.pell = await use.house.as('pell@wharfside.example');
    use.mara = await use.house.as('mara@wharfside.example');
  });
  afterAll(async () => {
    await use.house.close();
    await use.radicale.stop();
  });
  const view = async (): Promise<CalendarLink> => {
    const [link] = (await use.pell.call('GET /api/calendar/links')).body.items;
    if (!link) throw new Error('Pell has no calendar elsewhere');
    return link;
  };
  use.link = async (url = use.radicale.calendar) => {
    const { status, body } = await use.pell.call('POST /api/calendar/links', {
      body: { url, username: DAV_USER, password: DAV_PASSWORD },
    });
    if (status !== 201) throw new Error(JSON.stringify(body));
    await use.house.work();
    return body.id as string;
  };
  use.sync = async () => {
    // What follows the last commands asks for it too, and for a little later.
    await use.house.work();
    const { id } = await view();
    await use.pell.call('POST /api/calendar/links/:id/sync', { params: { id } });
    await use.house.work();
    return view();
  };
  return use;
}

/** A file of an event, as another program writes it. */
export const outsideEvent = (uid: string, ...lines: string[]): string =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Somebody else//EN',
    'BEGIN:VEVENT',
    `UID:${uid}`,
    'DTSTAMP:20261101T080000Z',
    ...lines,
    'END:VEVENT',
    'END:VCALENDAR',
    '',
  ].join('\r\n');

/** A moment so many days and hours on, as a calendar file writes it, and as the API does. */
export function inDays(days: number, hour: number): { ics: string; iso: string } {
  const at = new Date();
  at.setUTCDate(at.getUTCDate() + days);
  at.setUTCHours(hour, 0, 0, 0);
  return { ics: at.toISOString().replace(/[-:]|\.\d{3}/g, ''), iso: at.toISOString() };
}

/** An event at a time, as another program writes it. */
export const eventAt = (uid: string, title: string, start: string, end: string, ...more: string[]): string =>
  outsideEvent(uid, `SUMMARY:${title}`, `DTSTART:${start}`, `DTEND:${end}`, ...more);

/** What is done with Pell's calendar here, in the words of tests. */
export function calendarActs(use: CalendarHouse) {
  let known = '';
  const pellId = async (): Promise<string> =>
    (known ||= (await use.pell.call('GET /api/session')).body.id as string);
  const calendar = async (who = use.pell): Promise<CalendarItem[]> => {
    const within = { from: inDays(-2, 0).iso, until: inDays(59, 0).iso };
    return (await who.call('GET /api/calendar', { query: { ...within, who: await pellId() } })).body.items;
  };
  const find = async (title: string, who = use.pell): Promise<CalendarItem | undefined> =>
    (await calendar(who)).find((item) => item.title === title);
  return {
    pellId,
    calendar,
    find,
    must: async (title: string): Promise<CalendarItem> => {
      const item = await find(title);
      if (!item) throw new Error(`${title} does not stand in the calendar`);
      return item;
    },
    add: async (title: string, start = inDays(3, 10), more = {}) => {
      const { body } = await use.pell.call('POST /api/tasks', {
        body: { title, kind: 'meeting', dueAt: start.iso, allDay: false, ...more },
      });
      return body.task as { id: string; version: number };
    },
    /** The file of one of ours there; null where there is none. */
    fileOf: (id: string): Promise<string | null> => use.radicale.get(`meeting.${id}@127.0.0.1.ics`),
    patch: (id: string, body: object) => use.pell.call('PATCH /api/tasks/:id', { params: { id }, body }),
  };
}
