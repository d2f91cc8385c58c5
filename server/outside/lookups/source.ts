import type { FactField, FoundFact, Known, Subject } from '@emporikon/core/lookups/facts';

/** What is sent to a source, by its own names. */
export type Question = Record<string, string>;

export type Answer =
  | { found: false }
  | {
      found: true;
      facts: FoundFact[];
      /** The firm it is about, as the source names it; empty where the source does not say. */
      name: string;
      domain: string;
    };

/** What a source may tell, and how far it is believed before anything was asked: judged shares, 0 to 1. */
export interface Tells {
  about: Subject;
  field: FactField;
  coverage: number;
  accuracy: number;
}

/** Somebody outside who can be asked for missing facts. Each is one file in this folder; see docs/lookups.md. */
export interface LookUpSource {
  key: string;
  label: string;
  /** Of one question, minor units of the house, and what it is paid for. */
  price: number;
  charges: 'answers' | 'finds';
  /** Questions it takes a second. */
  perSecond: number;
  tells: readonly Tells[];
  /** A fact without which it cannot be asked, for the plan. */
  needs: { about: Subject; field: FactField } | null;
  /** What it would be asked about somebody; null when too little is known. */
  question(known: Known): Question | null;
  /** Asks. @throws SourceTrouble */
  ask(question: Question, signal: AbortSignal): Promise<Answer>;
}

/** down: no answer; busy: asked too fast; spent: its quota is used up; refused: the key or question; nonsense: no answer of the agreed shape. */
export type TroubleKind = 'down' | 'busy' | 'spent' | 'refused' | 'nonsense';

export class SourceTrouble extends Error {
  constructor(
    readonly kind: TroubleKind,
    message: string,
    /** What the source asks us to wait, ms. */
    readonly retryAfterMs: number | null = null,
  ) {
    super(message);
  }
}

function retryAfter(header: string | null): number | null {
  if (!header) return null;
  const seconds = Number(header);
  const ms = Number.isFinite(seconds) ? seconds * 1000 : Date.parse(header) - Date.now();
  return Number.isFinite(ms) ? Math.max(0, ms) : null;
}

const MOST_BYTES = 256 * 1024;

/**
 * Asks over HTTP and takes the answer apart by status: 404 is nothing known, 402 a used-up quota, 429 too fast, 5xx or
 * silence down, anything else refused.
 * @returns the parsed JSON; null for nothing known
 * @throws SourceTrouble
 */
export async function askOverHttp(url: string, init: RequestInit): Promise<unknown> {
  let response: Response;
  try {
    response = await fetch(url, { ...init, redirect: 'error' });
  } catch {
    throw new SourceTrouble('down', 'does not answer');
  }
  if (response.status === 404) return null;
  if (response.status === 402)
    throw new SourceTrouble(
      'spent',
      'says that our quota is used up',
      retryAfter(response.headers.get('retry-after')),
    );
  if (response.status === 429)
    throw new SourceTrouble('busy', 'was asked too fast', retryAfter(response.headers.get('retry-after')));
  if (response.status >= 500)
    throw new SourceTrouble(
      'down',
      `fails (${response.status})`,
      retryAfter(response.headers.get('retry-after')),
    );
  if (!response.ok) throw new SourceTrouble('refused', `refuses (${response.status})`);
  try {
    const text = await response.text();
    if (text.length > MOST_BYTES) throw new SourceTrouble('nonsense', 'answers more than can be right');
    return JSON.parse(text) as unknown;
  } catch (error) {
    if (error instanceof SourceTrouble) throw error;
    throw new SourceTrouble('nonsense', 'answers what cannot be read');
  }
}
