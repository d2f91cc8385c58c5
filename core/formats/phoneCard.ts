import { escapeText, fold } from './vcard';

/** What a phone needs to say who calls. */
export interface PhoneCard {
  uid: string;
  fullName: string;
  givenName: string;
  familyName: string;
  jobTitle: string;
  companyName: string;
  phones: readonly { value: string; type: string | null }[];
  emails: readonly string[];
}

const TYPES: Readonly<Record<string, string>> = { mobile: 'CELL', work: 'WORK', home: 'HOME', fax: 'FAX' };

/** A card for the address book of a phone: vCard 3.0 (RFC 2426), which all of them read. */
export function writePhoneCard(card: PhoneCard): string {
  const lines = [
    'BEGIN:VCARD',
    'VERSION:3.0',
    `UID:${escapeText(card.uid)}`,
    `FN:${escapeText(card.fullName)}`,
    `N:${escapeText(card.familyName)};${escapeText(card.givenName)};;;`,
    ...(card.companyName ? [`ORG:${escapeText(card.companyName)}`] : []),
    ...(card.jobTitle ? [`TITLE:${escapeText(card.jobTitle)}`] : []),
    ...card.phones.map(({ value, type }) => `TEL;TYPE=${TYPES[type ?? ''] ?? 'VOICE'}:${escapeText(value)}`),
    ...card.emails.map((email) => `EMAIL;TYPE=INTERNET:${escapeText(email)}`),
    'END:VCARD',
  ];
  return `${lines.map(fold).join('\r\n')}\r\n`;
}
