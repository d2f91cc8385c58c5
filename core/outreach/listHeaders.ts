/**
 * The header fields by which a mail to many can be left: by one press in the mail program (RFC 8058), by a mail, or on the page
 * (RFC 2369). Of several ways the first is preferred.
 * @param page the address of the reader's own page, which takes the POST as well
 * @param mailbox where a mail with the token in its subject is read; null for none
 * @throws where an address could end its field
 */
export function listHeaders(
  page: string,
  mailbox: string | null,
  token: string,
): Record<'List-Unsubscribe' | 'List-Unsubscribe-Post', string> {
  if (/[\s<>]/.test(`${page}${mailbox ?? ''}${token}`))
    throw new Error('an address cannot stand in a header');
  const byMail = mailbox ? [`<mailto:${mailbox}?subject=${encodeURIComponent(`unsubscribe ${token}`)}>`] : [];
  return {
    'List-Unsubscribe': [`<${page}>`, ...byMail].join(', '),
    'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
  };
}

/** The token in the subject of a mail that a program wrote for somebody who unsubscribes; null in any other. */
export const tokenOfSubject = (subject: string): string | null =>
  /^\s*unsubscribe\s+([\w-]{40,120})\s*$/i.exec(subject)?.[1] ?? null;
