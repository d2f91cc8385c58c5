import type { BackTest, Forecast } from '@emporikon/contract/forecast';
import { minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import type { Data, Layout } from 'plotly.js';
import { monthName } from '../shell/format';

/** Colours of the theme in use, by the name of their CSS variable. */
const colour = (name: string): string =>
  getComputedStyle(document.querySelector('.v-application') ?? document.documentElement)
    .getPropertyValue(name)
    .trim();

export function layout(currency: string): Partial<Layout> {
  const axis = { gridcolor: colour('--rule2'), linecolor: colour('--rule'), zerolinecolor: colour('--rule') };
  return {
    margin: { l: 72, r: 8, t: 28, b: 26 },
    height: 250,
    paper_bgcolor: 'rgba(0,0,0,0)',
    plot_bgcolor: 'rgba(0,0,0,0)',
    font: { family: 'Commissioner Variable, sans-serif', size: 12, color: colour('--ink') },
    xaxis: { ...axis, type: 'category' },
    yaxis: { ...axis, rangemode: 'tozero', tickformat: '~s', tickprefix: `${currency} ` },
    legend: { orientation: 'h', x: 0, y: 1.02, yanchor: 'bottom' },
    dragmode: false,
    bargap: 0.35,
    hovermode: 'x unified',
  };
}

const unitsOf = (currency: string): ((minor: number) => number) => {
  const unit = 10 ** minorDigits(currency);
  return (minor) => minor / unit;
};

type Point = { weightedMinor: number; low: number; high: number };

/** The weighted forecast as a line, with the range of the simulation as its error bars. */
function weightedLine(name: string, x: string[], points: readonly Point[], currency: string): Data {
  const whole = unitsOf(currency);
  return {
    type: 'scatter',
    mode: 'lines+markers',
    name,
    x,
    y: points.map((point) => whole(point.weightedMinor)),
    line: { color: colour('--ink'), width: 1.5 },
    error_y: {
      type: 'data',
      symmetric: false,
      array: points.map((point) => whole(Math.max(0, point.high - point.weightedMinor))),
      arrayminus: points.map((point) => whole(Math.max(0, point.weightedMinor - point.low))),
      color: colour('--ink'),
      thickness: 1.2,
    },
  };
}

function bars(name: string, x: string[], minors: readonly number[], currency: string, tone: string): Data {
  const marker = { color: colour(tone), opacity: tone === '--soft' ? 0.45 : 1 };
  return { type: 'bar', name, x, y: minors.map(unitsOf(currency)), marker };
}

/** Won, committed and best as bars by month, weighted with its range as a line. */
export function forecastTraces({ months, simulated, currency }: Forecast): Data[] {
  const x = months.map((month) => monthName(month.month));
  const of = (key: 'wonMinor' | 'committedMinor' | 'bestMinor'): number[] =>
    months.map((month) => month[key]);
  const points = months.map(({ weightedMinor }, at) => ({
    weightedMinor,
    low: simulated.months[at]?.low ?? 0,
    high: simulated.months[at]?.high ?? 0,
  }));
  return [
    bars('Won', x, of('wonMinor'), currency, '--theirs'),
    bars('Committed', x, of('committedMinor'), currency, '--ours'),
    bars('Best', x, of('bestMinor'), currency, '--soft'),
    weightedLine('Weighted, with 8 in 10 of the runs between the ends', x, points, currency),
  ];
}

/** Past months: what the forecast of their first day said, and what came. */
export function backTestTraces(items: readonly BackTest[], currency: string): Data[] {
  const x = items.map((item) => monthName(item.month));
  const of = (key: 'seenMinor' | 'wonMinor'): number[] => items.map((item) => item[key]);
  return [
    weightedLine('Weighted on the first day, with 8 in 10 of the runs', x, items, currency),
    bars('Won of what stood there', x, of('seenMinor'), currency, '--theirs'),
    bars('Won in all', x, of('wonMinor'), currency, '--soft'),
  ];
}
