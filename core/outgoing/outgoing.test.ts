import ICAL from 'ical.js';
import { calendarFrame, writeOneEvent } from '../formats/icalendar';
import { registryWith } from '../query/registry/index';
import type { Field } from '../query/types';
import { headCells, sheetCell, textCell } from './cells';
import { eventOf } from './events';
import { dateFieldOf, formatProblem } from './formats';

const field = (type: Field['type'], more: object = {}) =>
  ({ key: 'x', label: 'Expected close', type, ...more }) as Field;
const told = {
  stamp: '2026-11-29T10:00:00.000Z',
  host: 'house.example',
  url: 'https://house.example/deals/1',
};
const { person, deal, company, task } = registryWith({});

describe('cells', () => {
  it('are text that says what is meant, and numbers where a workbook adds them up', () => {
    const choice = field('choice', { options: [{ value: 'a', label: 'Apple' }] });
    expect(textCell('a', choice, 'EUR')).toBe('Apple');
    expect(textCell(['a', 'gone'], choice, 'EUR')).toBe('Apple; gone');
    expect(textCell(123_456, field('money'), 'EUR')).toBe('1234.56');
    // ISO 4217: the yen has no minor unit, the Bahraini dinar has three digits.
    expect(textCell(123_456, field('money'), 'JPY')).toBe('123456');
    expect(sheetCell(123_456, field('money'), 'BHD')).toBe(123.456);
    expect(sheetCell('007', field('text'), 'EUR')).toBe('007');
    expect([textCell(false, field('flag'), 'EUR'), sheetCell(null, field('number'), 'EUR')]).toEqual([
      'no',
      null,
    ]);
    expect(headCells([field('money'), field('day')], 'EUR')).toEqual([
      'Expected close (EUR)',
      'Expected close',
    ]);
  });
});

describe('a calendar of records', () => {
  it('takes the field asked for, else the first date shown, else the usual one of the kind', () => {
    expect(dateFieldOf({ kind: 'person', columns: ['fullName', 'lastSpokenTo'] }, person.fields)).toBe(
      'lastSpokenTo',
    );
    expect(dateFieldOf({ kind: 'person', columns: ['fullName'] }, person.fields)).toBe('birthday');
    expect(dateFieldOf({ kind: 'deal', columns: ['createdAt'] }, deal.fields, 'expectedClose')).toBe(
      'expectedClose',
    );
    expect(dateFieldOf({ kind: 'deal', columns: ['createdAt'] }, deal.fields, 'title')).toBeNull();
    expect(formatProblem('ics', { kind: 'deal' }, deal, 'title')).toMatch(/says a day/);
    expect(formatProblem('vcf', { kind: 'company' }, company)).toMatch(/not of companies/);
    expect(formatProblem('vcf', { kind: 'person' }, person)).toBeNull();
    expect(formatProblem('geojson', { kind: 'person' }, person)).toBeNull();
    expect(formatProblem('geojson', { kind: 'task' }, task)).toMatch(/no map of tasks/);
  });

  // RFC 5545: 3.8.2.4 a day is a DATE, 3.8.5.3 what comes back has a rule, 3.6.1 without an end a day ends with itself.
  it('is a file of days, moments and days that come back', () => {
    const events = [
      eventOf({ id: '1', name: 'Ann; and, Ben', value: '2026-12-05' }, field('day'), told),
      eventOf({ id: '2', name: 'Call', value: '2026-12-05T09:30:00.000Z' }, field('time'), told),
      eventOf({ id: '3', name: 'Cleo', value: '02-29' }, field('yearly'), told),
      eventOf({ id: '4', name: 'Dan', value: '1984-02-29' }, field('yearly'), told),
      eventOf({ id: '5', name: 'Nobody', value: null }, field('day'), told),
    ].filter((event) => event !== null);
    const { head, tail } = calendarFrame('Deals');
    const read = new ICAL.Component(ICAL.parse(head + events.map(writeOneEvent).join('') + tail));
    const found = read.getAllSubcomponents('vevent').map((one) => {
      const { summary, startDate, uid } = new ICAL.Event(one);
      return [uid, summary, startDate.toString(), one.getFirstPropertyValue('rrule')?.toString() ?? ''];
    });
    expect(found).toEqual([
      ['x.1@house.example', 'Ann; and, Ben (expected close)', '2026-12-05', ''],
      ['x.2@house.example', 'Call (expected close)', '2026-12-05T09:30:00Z', ''],
      ['x.3@house.example', 'Cleo (expected close)', '2000-02-29', 'FREQ=YEARLY'],
      ['x.4@house.example', 'Dan (expected close)', '1984-02-29', 'FREQ=YEARLY'],
    ]);
    expect(read.getFirstPropertyValue('x-wr-calname')).toBe('Deals');
  });
});
