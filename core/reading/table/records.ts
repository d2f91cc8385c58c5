import { registrableDomain } from '../../people/emails';
import { readPhone } from '../../people/phones';
import { fold, tidy } from '../../people/text';
import { isCurrency } from '../../lifecycle/currencies';
import { minorOf } from '../../ledger/sum';
import { readDay, type DateHabit } from './days';

/** What the rows of a table are. */
export type TableTarget = 'people' | 'companies' | 'deals';

/** What a column of companies or deals can hold, beside nothing. */
export const RECORD_FIELDS = {
  companies: {
    recordId: 'Our ID',
    companyName: 'Company',
    domain: 'Domain or website',
    phone: 'Phone',
    address: 'Address',
    country: 'Country (two letters)',
    industry: 'Industry',
    employees: 'Employees',
  },
  deals: {
    recordId: 'Our ID',
    dealTitle: 'Title',
    amount: 'Amount',
    currency: 'Currency',
    stage: 'Stage',
    expectedClose: 'Expected by',
    companyName: 'Company',
    companyId: "Company's ID",
    domain: "Company's domain or website",
    email: "Person's email",
  },
} as const;
export type RecordField = keyof (typeof RECORD_FIELDS)['companies'] | keyof (typeof RECORD_FIELDS)['deals'];

/** Words by which a heading tells what stands below it, folded; the first that fits is taken. Common practice. */
const HEADINGS: readonly [RecordField, RegExp][] = [
  ['companyId', /^(?:company|account|firma) ?id$/],
  ['recordId', /^(?:id|record ?id|our id|deal ?id|company id)$/],
  ['domain', /domain|website|web ?site|^web$|homepage|^url$/],
  ['email', /e[- ]?mail/],
  ['amount', /amount|value|betrag|wert|montant|valor|sum/],
  ['currency', /currency|wahrung|devise|moeda/],
  ['stage', /stage|phase|status/],
  ['expectedClose', /close|expected|abschluss|due/],
  ['dealTitle', /deal|title|opportunity|titel|subject/],
  ['phone', /phone|tel|fon/],
  ['address', /address|adresse|street|strasse/],
  ['country', /country|land|pays|pais/],
  ['industry', /industry|branche|sector/],
  ['employees', /employees|mitarbeiter|headcount|size/],
  ['companyName', /company|firm|organi[sz]ation|account|kunde|name/],
];

/** What each column of a table of companies or deals holds, told by its heading; each field once. */
export function guessRecordFields(
  target: 'companies' | 'deals',
  headings: readonly string[],
): (RecordField | 'none')[] {
  const taken = new Set<string>();
  return headings.map((heading) => {
    const words = fold(heading);
    const field = HEADINGS.find(
      ([one, pattern]) => one in RECORD_FIELDS[target] && !taken.has(one) && pattern.test(words),
    )?.[0];
    if (!field) return 'none';
    taken.add(field);
    return field;
  });
}

/** One row of companies or deals, as it would be kept. */
export interface RecordData {
  recordId?: string;
  companyName?: string;
  companyId?: string;
  domain?: string;
  phone?: string;
  address?: string;
  country?: string;
  industry?: string;
  employees?: number;
  dealTitle?: string;
  amountMinor?: number;
  currency?: string;
  stage?: string;
  expectedClose?: string;
  email?: string;
}

const UUID = /^[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}$/i;
const LONGEST = 300;
/** Plain, or in groups of three; no firm employs a hundred million. */
const PEOPLE = /^(?:\d{1,8}|\d{1,2}(?:[.,' ]\d{3}){1,2}|\d{3}[.,' ]\d{3})$/;

export interface RecordHow {
  dates: DateHabit;
  /** ISO 3166-1, of numbers without a country code. */
  country: string;
  /** ISO 4217, of sums that name none. */
  currency: string;
}

/**
 * Reads one row of companies or deals.
 * @param cells by the field their column holds
 * @returns what would be kept, and what of it cannot be
 */
export function readRecordRow(
  cells: readonly (readonly [RecordField, string])[],
  { dates, country, currency }: RecordHow,
): { data: RecordData; problems: string[] } {
  const data: RecordData = {};
  const problems: string[] = [];
  const given = new Map(cells.map(([field, cell]) => [field, tidy(cell).slice(0, LONGEST)]));
  const cannotBe = (text: string, what: string): void => void problems.push(`“${text}” is not ${what}`);
  const take = <Key extends keyof RecordData>(
    key: Key,
    value: RecordData[Key] | null | undefined,
    text: string,
    what: string,
  ): void => {
    if (value === null || value === undefined) cannotBe(text, what);
    else data[key] = value;
  };
  const sums = given.get('currency')?.toUpperCase() ?? currency;
  for (const [field, text] of given) {
    if (!text) continue;
    if (field === 'recordId' || field === 'companyId')
      take(field, UUID.test(text) ? text.toLowerCase() : null, text, 'one of our IDs');
    else if (field === 'domain') take('domain', registrableDomain(text) || null, text, 'a domain');
    else if (field === 'phone') take('phone', readPhone(text, [country])?.normalized, text, 'a phone number');
    else if (field === 'country')
      take('country', /^[a-z]{2}$/i.test(text) ? text.toUpperCase() : null, text, 'a country of two letters');
    else if (field === 'employees')
      take(
        'employees',
        PEOPLE.test(text) ? Number(text.replace(/\D/g, '')) : null,
        text,
        'a number of people',
      );
    else if (field === 'expectedClose') take('expectedClose', readDay(text, dates), text, 'a day');
    else if (field === 'currency') take('currency', isCurrency(sums) ? sums : null, text, 'a currency');
    else if (field === 'email')
      take('email', /^[^\s@]+@[^\s@]+$/.test(text) ? text.toLowerCase() : null, text, 'an address');
    else if (field === 'amount') take('amountMinor', amountOf(text, sums), text, 'an amount');
    else data[field] = text;
  }
  return { data, problems };
}

function amountOf(text: string, currency: string): number | null {
  try {
    return minorOf(text.replace(/[^\d.,'\s-]/g, '').trim(), currency);
  } catch {
    return null;
  }
}
