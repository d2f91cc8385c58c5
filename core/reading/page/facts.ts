import type { ClaimField } from '../types';
import type { PageLine } from './layout';

/** Where on a page a fact is told. */
export type Origin =
  | 'schema.org data'
  | 'h-card'
  | 'page headings'
  | 'labelled lines'
  | 'page links'
  | 'page text'
  | 'OpenGraph';

/** One fact a page tells of somebody, before the page's voices are weighed against each other. */
export interface Fact {
  field: ClaimField;
  value: string;
  origin: Origin;
  /** Which kind of number the page says it is. */
  type?: 'mobile' | 'work' | 'home' | 'fax';
  /** Where it stands, when that is known better than by looking for the value. */
  at?: { part: 'text' | 'source'; start: number; end: number };
}

/** Somebody or some firm a page tells of. */
export interface Subject {
  kind: 'person' | 'company';
  facts: Fact[];
  /** The page's own address for them. */
  url: string | null;
}

export const valueOf = (subject: Subject, field: ClaimField): string =>
  subject.facts.find((fact) => fact.field === field)?.value ?? '';

/** A fact of the page, with its place in a line where it stands there as it is. */
export const textFact = (field: Fact['field'], value: string, origin: Origin, line: PageLine): Fact => {
  const at = line.text.indexOf(value);
  return {
    field,
    value,
    origin,
    ...(at < 0
      ? {}
      : { at: { part: 'text' as const, start: line.start + at, end: line.start + at + value.length } }),
  };
};
