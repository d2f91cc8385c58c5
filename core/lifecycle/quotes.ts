import type { Charged } from './lines';

export const QUOTE_STATES = ['drafted', 'sent', 'accepted', 'declined', 'withdrawn'] as const;
export type QuoteState = (typeof QUOTE_STATES)[number];

const NEXT: Record<QuoteState, readonly QuoteState[]> = {
  drafted: ['sent', 'withdrawn'],
  sent: ['accepted', 'declined', 'withdrawn'],
  accepted: [],
  declined: [],
  withdrawn: [],
};
/** The states a quote can go to from one. */
export const nextQuoteStates = (from: QuoteState): readonly QuoteState[] => NEXT[from];

/** A quote still open after its last day has lapsed. Days are ISO. */
export const isLapsed = (state: QuoteState, validUntil: string, today: string): boolean =>
  (state === 'drafted' || state === 'sent') && validUntil < today;

export interface QuoteLine {
  name: string;
  code: string;
  quantity: string;
  unitMinor: number;
  discountPercent: string;
  taxPercent: string;
  charged: Charged;
  periods: number;
  netMinor: number;
}

/** All that a quote prints. It is kept with the quote, so that it stays what was sent, whatever the deal becomes. */
export interface QuoteContent {
  title: string;
  issuer: string;
  /** The firm and its address, a line each. */
  to: string[];
  attention: string;
  from: string;
  currency: string;
  lines: QuoteLine[];
  taxes: { percent: number; netMinor: number; taxMinor: number }[];
  netMinor: number;
  grossMinor: number;
  terms: string;
}

/** `Q-2026-0007`: the prefix, the year, and the count within it. */
export const quoteNumber = (prefix: string, year: number, count: number): string =>
  `${prefix}-${year}-${String(count).padStart(4, '0')}`;
