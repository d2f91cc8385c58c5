import type { BackTest, Forecast } from '@emporikon/contract/forecast';
import { minorDigits } from '@emporikon/core/lifecycle/currencies';
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

/** Won, committed and weighted as bars by month, the range of the simulation as a line with its ends. */
export function forecastTraces({ months, simulated, currency }: Forecast): Data[] {
  const whole = (minor: number): number => minor / 10 ** minorDigits(currency);
  const x = months.map((one) => monthName(one.month));
  const ranges = simulated.months;
  return [
    {
      type: 'bar',
      name: 'Won',
      x,
      y: months.map((one) => whole(one.wonMinor)),
      marker: { color: colour('--theirs') },
    },
    {
      type: 'bar',
      name: 'Committed',
      x,
      y: months.map((one) => whole(one.committedMinor)),
      marker: { color: colour('--ours') },
    },
    {
      type: 'bar',
      name: 'Best',
      x,
      y: months.map((one) => whole(one.bestMinor)),
      marker: { color: colour('--soft'), opacity: 0.45 },
    },
    {
      type: 'scatter',
      mode: 'lines+markers',
      name: 'Weighted, with 8 in 10 of the runs between the ends',
      x,
      y: months.map((one) => whole(one.weightedMinor)),
      line: { color: colour('--ink'), width: 1.5 },
      error_y: {
        type: 'data',
        symmetric: false,
        array: ranges.map((one, at) => whole(Math.max(0, one.high - (months[at]?.weightedMinor ?? 0)))),
        arrayminus: ranges.map((one, at) => whole(Math.max(0, (months[at]?.weightedMinor ?? 0) - one.low))),
        color: colour('--ink'),
        thickness: 1.2,
      },
    },
  ];
}

/** Past months: what the forecast of their first day said, and what came. */
export function backTestTraces(items: readonly BackTest[], currency: string): Data[] {
  const whole = (minor: number): number => minor / 10 ** minorDigits(currency);
  const x = items.map((one) => monthName(one.month));
  return [
    {
      type: 'scatter',
      mode: 'lines+markers',
      name: 'Weighted on the first day, with 8 in 10 of the runs',
      x,
      y: items.map((one) => whole(one.weightedMinor)),
      line: { color: colour('--ink'), width: 1.5 },
      error_y: {
        type: 'data',
        symmetric: false,
        array: items.map((one) => whole(Math.max(0, one.high - one.weightedMinor))),
        arrayminus: items.map((one) => whole(Math.max(0, one.weightedMinor - one.low))),
        color: colour('--ink'),
        thickness: 1.2,
      },
    },
    {
      type: 'bar',
      name: 'Won of what stood there',
      x,
      y: items.map((one) => whole(one.seenMinor)),
      marker: { color: colour('--theirs') },
    },
    {
      type: 'bar',
      name: 'Won in all',
      x,
      y: items.map((one) => whole(one.wonMinor)),
      marker: { color: colour('--soft'), opacity: 0.45 },
    },
  ];
}
