import type { Erasure, ErasureCounts, KeepingTime } from '@emporikon/contract/privacy';
import { counted } from '../shell/format';

/** What of a person goes for good, a line each. */
export function goneLines(counts: ErasureCounts): string[] {
  const parts: [number, string, string?][] = [
    [counts.contacts, 'contact detail'],
    [counts.facts, 'fact with its source', 'facts with their sources'],
    [counts.captures, 'original message, page or form', 'original messages, pages or forms'],
    [counts.entries, 'ledger entry: its text', 'ledger entries: their text'],
    [counts.files, 'file'],
    [counts.calls, 'call'],
    [counts.openTasks, 'open task'],
  ];
  return parts.flatMap(([n, one, many]) => (n ? counted(n, one, many) : []));
}

/** What stays, without telling who it was. */
export function keptLines(counts: ErasureCounts): string[] {
  const parts: [number, string, string?][] = [
    [counts.leads, 'lead', 'leads'],
    [counts.deals, 'deal', 'deals'],
    [counts.cases, 'case', 'cases'],
    [counts.entries, 'ledger entry: its day and kind', 'ledger entries: their day and kind'],
    [
      counts.redacted,
      'text with others in it, without the name',
      'texts with others in them, without the name',
    ],
  ];
  return parts.flatMap(([n, one, many]) => (n ? counted(n, one, many) : []));
}

export const reasonWords = ({ reason, note }: Pick<Erasure, 'reason' | 'note'>): string =>
  reason === 'time' ? 'Keeping time over' : note || 'No reason given';

/** Each keeping time as it is set: what it is about, and what becomes of it. */
export const KEEPING: Readonly<
  Record<KeepingTime['kind'], { title: string; help: string; one: string; many: string }>
> = {
  'set aside': {
    title: 'Set aside in Arrivals',
    help: 'Messages, pages and forms that nobody filed are deleted.',
    ...{ one: 'message or page', many: 'messages and pages' },
  },
  'call texts': {
    title: 'Words of calls',
    help: 'The text of a recorded call is deleted. The call and what was noted of it stay.',
    ...{ one: 'call', many: 'calls' },
  },
  strangers: {
    title: 'People you never spoke to',
    help: 'Strangers and prospects without an open lead, deal, task or case are erased.',
    ...{ one: 'person', many: 'people' },
  },
  quiet: {
    title: 'People you lost touch with',
    help: 'The same, of people you did speak to: counted from the last word. Customers and partners stay.',
    ...{ one: 'person', many: 'people' },
  },
  'import files': {
    title: 'Imported files',
    help: 'The file itself is deleted. What was imported from it stays.',
    ...{ one: 'file', many: 'files' },
  },
};

export const MONTHS: readonly { value: number | null; title: string }[] = [
  { value: null, title: 'Keep' },
  ...[6, 12, 18, 24, 36, 60, 120].map((value) => ({
    value,
    title: value % 12 ? `After ${value} months` : `After ${counted(value / 12, 'year')}`,
  })),
];
