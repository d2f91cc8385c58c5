import type { CustomField } from '@emporikon/contract/fields';
import type { Level } from '@emporikon/core/fields/rights';
import { MAY_BE_UNIQUE, POINTS, type OwnKind, type OwnRecord } from '@emporikon/core/fields/own';

/** A field as it is filled in; choices stand a line each. */
export interface FieldDraft {
  label: string;
  kind: OwnKind;
  choices: string;
  currency: string;
  formula: string;
  preset: string;
  tab: string;
  part: string;
  help: string;
  isAsked: boolean;
  isUnique: boolean;
  isPersonal: boolean;
  onlyFor: string[];
  seenBy: Level;
  changedBy: Level;
}

export const RECORD_WORDS: Readonly<Record<OwnRecord, string>> = {
  person: 'People',
  company: 'Companies',
  lead: 'Leads',
  deal: 'Deals',
  task: 'Tasks',
  project: 'Projects',
  case: 'Cases',
};
export const KIND_WORDS: Readonly<Record<OwnKind, string>> = {
  text: 'Text',
  'long text': 'Long text',
  number: 'Number',
  money: 'Money',
  date: 'Date',
  'yearly date': 'Date that comes back every year',
  choice: 'Choice of one',
  several: 'Choice of several',
  'yes or no': 'Yes or no',
  person: 'Person',
  company: 'Company',
  link: 'Web address',
  file: 'File',
  formula: 'Formula',
};

export const hasChoices = (kind: OwnKind): boolean => kind === 'choice' || kind === 'several';
export const mayBeUnique = (kind: OwnKind): boolean => MAY_BE_UNIQUE.has(kind);
export const mayBegin = ({ kind, isUnique }: Pick<FieldDraft, 'kind' | 'isUnique'>): boolean =>
  !POINTS.has(kind) && kind !== 'formula' && !isUnique;

export const draftOf = (field: CustomField | null, currency: string): FieldDraft => ({
  label: field?.label ?? '',
  kind: field?.kind ?? 'text',
  choices: field && hasChoices(field.kind) ? field.options.join('\n') : '',
  currency: (field?.kind === 'money' ? field.options[0] : null) ?? currency,
  formula: field?.formula ?? '',
  preset: field?.preset ?? '',
  tab: field?.tab ?? '',
  part: field?.part ?? '',
  help: field?.help ?? '',
  isAsked: field?.isAsked ?? false,
  isUnique: field?.isUnique ?? false,
  isPersonal: field?.isPersonal ?? false,
  onlyFor: [...(field?.onlyFor ?? [])],
  seenBy: field?.seenBy ?? 'everybody',
  changedBy: field?.changedBy ?? 'everybody',
});

/** A draft as the server takes it; what does not belong to its kind is left out. */
export function bodyOf(
  draft: FieldDraft,
): Omit<CustomField, 'id' | 'version' | 'key' | 'record' | 'kind' | 'active'> {
  const { kind, choices, currency, label, tab, part, help, isAsked, isPersonal, onlyFor } = draft;
  const isUnique = mayBeUnique(kind) && draft.isUnique;
  const lines = choices
    .split('\n')
    .map((one) => one.trim())
    .filter(Boolean);
  return {
    ...{ label, tab, part, help, isAsked, isPersonal, onlyFor, isUnique },
    ...{ seenBy: draft.seenBy, changedBy: draft.changedBy },
    options: hasChoices(kind) ? lines : kind === 'money' ? [currency.trim().toUpperCase()] : [],
    formula: kind === 'formula' ? draft.formula : '',
    preset: mayBegin({ kind, isUnique }) ? draft.preset : '',
  };
}

/** What else is to be known of a field, in a line. */
export function marksOf(
  field: Pick<CustomField, 'seenBy' | 'changedBy' | 'active' | 'isAsked' | 'isUnique' | 'preset' | 'onlyFor'>,
  called: (id: string) => string,
): string {
  return [
    field.active ? '' : 'retired',
    field.seenBy === 'everybody' ? '' : `seen by ${field.seenBy}`,
    field.changedBy === field.seenBy ? '' : `changed by ${field.changedBy}`,
    field.isAsked ? 'worth asking' : '',
    field.isUnique ? 'no two alike' : '',
    field.preset ? `begins with ${field.preset.split('\n').join(', ')}` : '',
    field.onlyFor.length ? `only for ${field.onlyFor.map(called).join(', ')}` : '',
  ]
    .filter(Boolean)
    .join(' · ');
}
