import { z } from 'zod';
import { Country, Currency, Day, Id, Line, Minor, Page, TimeZone, type RouteSpec } from './common';
import { allRoutes } from './index';

const takes = (schema: z.ZodType, value: unknown): boolean => schema.safeParse(value).success;

describe('what every route takes', () => {
  it.each([
    [
      Day,
      ['2026-11-27', '2028-02-29', '1583-01-01'],
      ['2026-02-30', '2026-11', '27.11.2026', '0001-01-01', '3000-01-01', 7],
    ],
    [Minor, [0, 1, 9_000_000_000_000], [-1, 1.5, 9_000_000_000_001, '5', null, NaN, Infinity]],
    [
      Line(10),
      ['Ines', ' Ines ', 'Ünï — “x”'],
      ['', '   ', 'a\nb', 'a\u0000b', 'a\u2028b', 'longer than ten'],
    ],
    [Currency, ['EUR', 'JPY'], ['eur', 'EURO', '€', '']],
    [Country, ['GB', 'PT'], ['gb', 'GBR', '']],
    [TimeZone, ['Europe/Lisbon', 'UTC'], ['Europe/Nowhere', '', 'x'.repeat(100)]],
    [Id, ['5f0c7c9e-6c1e-4c53-9a51-0c1f1f3f9a11'], ['1', '', '5f0c7c9e6c1e4c539a510c1f1f3f9a11', null]],
  ] as const)('case %#', (schema, good, bad) => {
    for (const value of good) expect([value, takes(schema, value)]).toEqual([value, true]);
    for (const value of bad) expect([value, takes(schema, value)]).toEqual([value, false]);
  });

  it('a line is kept without the white space around it', () => {
    expect(Line(20).parse('  Ines Duarte ')).toBe('Ines Duarte');
  });

  it('a page has between one row and two hundred, fifty where nobody says', () => {
    expect(Page.parse({})).toEqual({ limit: 50 });
    expect(Page.parse({ limit: '200' })).toEqual({ limit: 200 });
    for (const limit of ['0', '201', '1.5', 'many', '-1']) expect(takes(Page, { limit })).toBe(false);
    expect(takes(Page, { cursor: 'x'.repeat(2001) })).toBe(false);
  });
});

describe('every route of the contract', () => {
  const table = Object.entries(allRoutes as Record<string, RouteSpec>);

  it.each(table)('%s', (name, route) => {
    const [method = '', path = ''] = name.split(' ');
    expect(route.summary).toMatch(/^\S.*\S$/);
    expect(route.tag).toMatch(/\S/);
    if (method === 'GET') expect([route.body, route.raw]).toEqual([undefined, undefined]);
    const named = [...path.matchAll(/:(\w+)/g)].map(([, param = '']) => param).sort();
    const given = route.params instanceof z.ZodObject ? Object.keys(route.params.shape).sort() : [];
    expect(given).toEqual(named);
    if (route.query) expect(route.query).toBeInstanceOf(z.ZodObject);
    expect(() => z.toJSONSchema(route.reply, { unrepresentable: 'any', io: 'output' })).not.toThrow();
  });

  it('has an address of its own', () => {
    const shapes = table.map(([name]) => name.replace(/:\w+/g, ':'));
    expect(new Set(shapes).size).toBe(shapes.length);
  });
});
