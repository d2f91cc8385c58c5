import { divideRounded, scaled } from './currencies';

export const CHARGED = ['once', 'month', 'year'] as const;
/** Whether a line is charged once, or for each month or year. */
export type Charged = (typeof CHARGED)[number];

export interface LineFacts {
  /** Up to three decimal places. */
  quantity: string | number;
  /** Price of one, net of tax, in minor units. */
  unitMinor: number;
  /** Per cent, up to two decimal places. */
  discountPercent: string | number;
  taxPercent: string | number;
  charged: Charged;
  /** For how many months or years; 1 for what is charged once. */
  periods: number;
}

export interface TaxTotal {
  /** Per cent as it is written: `20`, `5.5`. */
  percent: number;
  netMinor: number;
  taxMinor: number;
}

export interface Totals {
  /** Net of each line over all its periods, in the order of the lines. */
  lines: number[];
  netMinor: number;
  taxes: TaxTotal[];
  taxMinor: number;
  grossMinor: number;
  /** Net parts by how they are charged: once, and of one month and of one year. */
  onceMinor: number;
  monthMinor: number;
  yearMinor: number;
}

/**
 * The net of one line for one period: price × quantity less discount, rounded once, half up, to the minor unit.
 * @returns minor units
 */
export function lineNet(line: Omit<LineFacts, 'taxPercent' | 'charged' | 'periods'>): number {
  const left = 10_000n - scaled(line.discountPercent, 2);
  return Number(divideRounded(BigInt(line.unitMinor) * scaled(line.quantity, 3) * left, 10_000_000n));
}

/**
 * Totals of a deal's lines. Each line is rounded to the minor unit by itself, recurring ones a period; tax is reckoned
 * on the sum of each rate and rounded once a rate, as EN 16931 has it for invoices (BT-131 line net, BT-116 taxable
 * amount, BT-117 tax of a rate, BT-112 total with tax). All amounts are minor units.
 */
export function totalsOf(lines: readonly LineFacts[]): Totals {
  const single = lines.map(lineNet);
  const whole = single.map((net, at) => {
    const line = lines[at];
    return line && line.charged !== 'once' ? net * line.periods : net;
  });
  const rates = new Map<bigint, number>();
  for (const [at, line] of lines.entries()) {
    const rate = scaled(line.taxPercent, 2);
    rates.set(rate, (rates.get(rate) ?? 0) + (whole[at] ?? 0));
  }
  const taxes = [...rates]
    .sort(([a], [b]) => (a < b ? 1 : -1))
    .map(([rate, netMinor]) => ({
      percent: Number(rate) / 100,
      netMinor,
      taxMinor: Number(divideRounded(BigInt(netMinor) * rate, 10_000n)),
    }));
  const sum = (values: readonly number[]): number => values.reduce((all, one) => all + one, 0);
  const of = (charged: Charged): number => sum(single.filter((_, at) => lines[at]?.charged === charged));
  const netMinor = sum(whole);
  const taxMinor = sum(taxes.map((tax) => tax.taxMinor));
  return {
    lines: whole,
    netMinor,
    taxes,
    taxMinor,
    grossMinor: netMinor + taxMinor,
    onceMinor: of('once'),
    monthMinor: of('month'),
    yearMinor: of('year'),
  };
}
