import { squash } from '../people/text';

interface Colleague {
  id: string;
  name: string;
  email: string;
}

/** An @ that begins a word, and not the middle of an email address, with what follows of letters, digits, dots and dashes. */
const AT = /(?<![\p{L}\p{N}._%+-])@([\p{L}\p{N}][\p{L}\p{N}._-]*)/gu;

/** How somebody may be called after an @: by what stands before the @ of their address, or by their whole name. */
const handlesOf = ({ name, email }: Colleague): string[] => [squash(email.split('@')[0] ?? ''), squash(name)];

/**
 * The colleagues that a text calls by @: by their address, their whole name ("@mara.quill"), or their first name where
 * only one has it.
 * @returns their ids, each once, in the order of the text
 */
export function findMentions(text: string, colleagues: readonly Colleague[]): string[] {
  const found = new Set<string>();
  for (const [, called = ''] of text.matchAll(AT)) {
    const handle = squash(called);
    const known = colleagues.filter((one) => handlesOf(one).includes(handle));
    const byFirstName = colleagues.filter((one) => squash(one.name.split(' ')[0] ?? '') === handle);
    const meant = known.length ? known : byFirstName.length === 1 ? byFirstName : [];
    for (const { id } of meant) found.add(id);
  }
  return [...found];
}
