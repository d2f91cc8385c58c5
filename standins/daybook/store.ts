import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** The events of one calendar, a file each, kept in a folder. */
export interface EventStore {
  names(): string[];
  read(name: string): string | null;
  write(name: string, data: string): void;
  remove(name: string): void;
}

const SAFE = /^[\w.@+-]{1,200}\.ics$/;
const DAY_MS = 86_400_000;

export const etagOf = (data: string): string =>
  `"${createHash('sha256').update(data).digest('hex').slice(0, 16)}"`;

const stampOf = (at: Date): string => at.toISOString().replace(/[-:]|\.\d{3}/g, '');

/** The file of an event at a time. */
export const eventFile = (title: string, start: Date, minutes: number, uid: string = randomUUID()): string =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Daybook//EN',
    'BEGIN:VEVENT',
    `UID:${uid}`,
    `DTSTAMP:${stampOf(new Date())}`,
    `DTSTART:${stampOf(start)}`,
    `DTEND:${stampOf(new Date(start.getTime() + minutes * 60_000))}`,
    `SUMMARY:${title.replace(/\s+/g, ' ').replace(/([\\;,])/g, '\\$1')}`,
    'END:VEVENT',
    'END:VCALENDAR',
    '',
  ].join('\r\n');

/** What a calendar holds when it is opened empty. */
function begin(store: EventStore): void {
  const at = (days: number, hour: number): Date => {
    const day = new Date(Date.now() + days * DAY_MS);
    day.setUTCHours(hour, 0, 0, 0);
    return day;
  };
  store.write('dentist.ics', eventFile('Dentist', at(2, 8), 45, 'dentist@daybook.example'));
  store.write('school.ics', eventFile('School play', at(4, 15), 90, 'school@daybook.example'));
}

export function openStore(folder: string): EventStore {
  mkdirSync(folder, { recursive: true });
  const path = (name: string): string => {
    if (!SAFE.test(name)) throw new Error('no name of an event');
    return join(folder, name);
  };
  const store: EventStore = {
    names: () => readdirSync(folder).filter((name) => SAFE.test(name)),
    read: (name) => (SAFE.test(name) && existsSync(path(name)) ? readFileSync(path(name), 'utf8') : null),
    write: (name, data) => writeFileSync(path(name), data),
    remove: (name) => rmSync(path(name), { force: true }),
  };
  if (!store.names().length) begin(store);
  return store;
}
