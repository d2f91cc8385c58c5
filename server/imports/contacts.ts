import type { Context } from '../commands/context';
import { copyRows, orderedId } from './copy';
import type { RowData } from './source';

export interface ReadyRow {
  row: number;
  data: RowData;
  act: 'make' | 'change' | 'leave' | 'reject';
  personId: string | null;
}

export interface NewContact {
  id: string;
  person_id: string;
  kind: string;
  value: string;
  normalized: string;
  type: string | null;
}

export function insertContacts(context: Context, contacts: readonly NewContact[]): Promise<void> {
  const now = context.now().toISOString();
  return copyRows(
    context,
    'contact_points',
    ['id', 'person_id', 'kind', 'value', 'normalized', 'type', 'created_at'],
    contacts.map((contact) => [
      contact.id,
      contact.person_id,
      contact.kind,
      contact.value,
      contact.normalized,
      contact.type,
      now,
    ]),
  );
}

export function contactsOf(context: Context, personId: string, data: RowData): NewContact[] {
  const seen = new Set<string>();
  const contact = (kind: string, value: string, normalized: string, type: string | null): NewContact[] => {
    const key = `${kind}:${normalized}`;
    if (seen.has(key)) return [];
    seen.add(key);
    return [
      {
        id: orderedId(context.now().getTime()),
        person_id: personId,
        kind,
        value,
        normalized,
        type,
      },
    ];
  };
  return [
    ...data.emails.flatMap((email) => contact('email', email.value, email.normalized, email.type ?? null)),
    ...data.phones.flatMap((phone) => contact('phone', phone.value, phone.normalized, phone.type)),
    ...data.links.flatMap((link) => contact(link.kind, link.value, link.normalized, null)),
  ];
}
