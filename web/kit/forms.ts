/** What stands in a field that picks a record: one that exists, or the name of a new one. */
export interface RecordValue {
  id?: string;
  label: string;
}

interface Shared {
  name: string;
  label: string;
  help?: string;
  placeholder?: string;
  isRequired?: boolean;
}

/** One field of a `FormDialog`. */
export type FormField = Shared &
  (
    | { kind: 'text' | 'long' | 'email' | 'phone' | 'date' | 'time' | 'tags' }
    | { kind: 'money'; currency: string }
    | { kind: 'choice'; options: readonly { value: string; title: string }[] }
    | { kind: 'person' | 'company' | 'deal'; mayBeNew?: boolean }
  );

export type FormValues = Record<string, unknown>;

const BLANK: Partial<Record<FormField['kind'], unknown>> = {
  tags: [],
  person: null,
  company: null,
  deal: null,
};

/** What a form begins with: blanks, but for what is given. */
export const blankValues = (fields: readonly FormField[], given: FormValues): FormValues =>
  Object.fromEntries(
    fields.map(({ name, kind }) => [name, given[name] ?? (kind in BLANK ? BLANK[kind] : '')]),
  );

/** Whether somebody changed anything. */
export const isChanged = (values: FormValues, begun: FormValues): boolean =>
  JSON.stringify(values) !== JSON.stringify(begun);

interface Issue {
  path: readonly PropertyKey[];
  message: string;
}

/** What is wrong, by the field it belongs to; what belongs to none stands under ''. */
export function problemsByField(
  issues: readonly Issue[],
  fields: readonly FormField[],
  aliases: Readonly<Record<string, string>> = {},
): Record<string, string> {
  const found: Record<string, string> = {};
  for (const { path, message } of issues) {
    const key = String(path[0] ?? '');
    const name = aliases[key] ?? key;
    const field = fields.find((one) => one.name === name);
    found[field ? name : ''] ??= field ? inWords(field, message) : message;
  }
  return found;
}

function inWords({ label }: FormField, message: string): string {
  if (/too small|expected|required|invalid input/i.test(message)) return `${label} is missing.`;
  if (/email/i.test(message)) return 'This is not an email address.';
  return `${label}: ${message}`;
}
