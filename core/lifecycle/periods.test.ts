import { daysOf } from './periods';

it.each([
  ['any', '2026-11-25', {}],
  ['overdue', '2026-03-01', { until: '2026-02-28' }],
  ['month', '2028-02-10', { from: '2028-02-01', until: '2028-02-29' }],
  ['next', '2026-12-31', { from: '2027-01-01', until: '2027-01-31' }],
  ['quarter', '2026-11-25', { from: '2026-10-01', until: '2026-12-31' }],
  ['later', '2026-11-25', { from: '2027-01-01' }],
] as const)('%s on %s', (period, today, days) => expect(daysOf(period, today)).toEqual(days));
