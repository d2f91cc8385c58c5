import { squash } from '../people/text';

export interface Colleague {
  id: string;
  name: string;
  /** Left out where only the name is known. */
  email?: string;
}

/** An @ that begins a word, and not the middle of an email address, with what follows of letters, digits, dots and dashes. */
const AT = /(?<![\p{L}\p{N}._%+-])@([\p{L}\p{N}][\p{L}\p{N}._-]*)/gu;

/** How somebody may be called after an @: by what stands before the @ of their address, or by their whole name. */
const handlesOf = ({ name, email }: Colleague): string[] =>
  [email?.split('@')[0], name].flatMap((handle) => (handle ? [squash(handle)] : []));

/**
 * Where a text calls colleagues by @: by their address, their whole name ("@mara.quill"), or their first name where only
 * one has it. A full stop that ends the sentence is not part of it.
 */
export function mentionsIn(
  text: string,
  colleagues: readonly Colleague[],
): { id: string; start: number; end: number }[] {
  return [...text.matchAll(AT)].flatMap((match) => {
    const [whole, called = ''] = match;
    const handle = squash(called);
    const known = colleagues.filter((one) => handlesOf(one).includes(handle));
    const byFirstName = colleagues.filter((one) => squash(one.name.split(' ')[0] ?? '') === handle);
    const meant = known.length ? known : byFirstName.length === 1 ? byFirstName : [];
    return meant.map(({ id }) => ({ id, start: match.index, end: match.index + whole.length }));
  });
}

/** The colleagues that a text calls by @, each once, in the order of the text. */
export const findMentions = (text: string, colleagues: readonly Colleague[]): string[] => [
  ...new Set(mentionsIn(text, colleagues).map(({ id }) => id)),
];
