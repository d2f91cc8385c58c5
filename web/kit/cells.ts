/** What an `EditCell` can hold. */
export type CellKind =
  'text' | 'long' | 'number' | 'date' | 'money' | 'phone' | 'choice' | 'several' | 'person' | 'company';

export interface CellOption {
  value: string;
  title: string;
}
