import type { Teammate } from '@emporikon/contract/session';
import type { ZodType } from 'zod';
import type { FormField, FormValues, RecordValue } from '../kit/forms';

/** What a dialog begins with: the records it is opened from. */
export interface Begun {
  person?: RecordValue;
  company?: RecordValue;
  deal?: RecordValue;
  project?: RecordValue;
  case?: RecordValue;
  /** The entry of the ledger in which it was told. */
  entry?: RecordValue;
  name?: string;
}
export interface Around {
  me: string;
  currency: string;
  team: readonly Teammate[];
  begun: Begun;
}
interface Made {
  text: string;
  to: string | null;
  eventId: string | null;
}
export interface MakeForm {
  title: string;
  submit: string;
  fields: FormField[];
  given: FormValues;
  schema: ZodType;
  aliases: Record<string, string>;
  toBody: (values: FormValues) => unknown;
  save: (body: never) => Promise<Made>;
}

export const text = (value: unknown): string | undefined => String(value ?? '').trim() || undefined;
export const record = (value: unknown): RecordValue | null => value as RecordValue | null;
export const optionsOf = (team: readonly Teammate[]): { value: string; title: string }[] =>
  team.map(({ id, name }) => ({ value: id, title: name }));
export const owner = ({ team }: Around): FormField => ({
  name: 'ownerId',
  label: 'Owner',
  kind: 'choice',
  options: optionsOf(team),
});
