import type { Present } from '@emporikon/contract/presence';

const list = (names: readonly string[]): string =>
  new Intl.ListFormat(undefined, { type: 'conjunction' }).format(names);

/** Who else is at a record, as a sentence; empty where nobody is. */
export function presenceWords(others: readonly Present[]): string {
  const editing = others.filter(({ field }) => field !== null);
  const looking = others.filter(({ field, isMe }) => field === null && !isMe);
  return [
    ...editing.map(({ name, field, isMe }) =>
      isMe ? `You are editing “${field}” in another tab` : `${name} is editing “${field}”`,
    ),
    ...(looking.length
      ? [`${list(looking.map(({ name }) => name))} ${looking.length === 1 ? 'is' : 'are'} here`]
      : []),
  ].join(' · ');
}

/** Who else edits one field, as a sentence; empty where nobody does. */
export function editingWords(others: readonly Present[], field: string): string {
  const who = others.filter((other) => other.field === field);
  if (!who.length) return '';
  if (who.every(({ isMe }) => isMe)) return 'You are editing this in another tab';
  const names = who.filter(({ isMe }) => !isMe).map(({ name }) => name);
  return `${list(names)} ${names.length === 1 ? 'is' : 'are'} editing this`;
}
