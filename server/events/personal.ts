/** Rows that are one person's own: nobody else is told of them or takes their changes back. */
export const PERSONAL = new Set(['mailboxes', 'phone_lines', 'annotations', 'views']);
