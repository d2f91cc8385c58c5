import { fold } from '@emporikon/core/people/text';

/** A colleague who may be meant by what stands behind an @. */
export interface Called {
  id: string;
  name: string;
  /** How they are called: by their first name where only one has it, or by all of it. */
  handle: string;
}

const MOST = 4;
/** An @ that begins a word, and what is typed of it so far. */
const BEGUN = /(?:^|[^\p{L}\p{N}._%+-])@([\p{L}\p{N}._-]*)$/u;

const handleOf = (name: string, names: readonly string[]): string => {
  const [first = ''] = name.split(' ');
  const isAlone = names.filter((other) => fold(other.split(' ')[0] ?? '') === fold(first)).length === 1;
  return (isAlone ? first : name.replaceAll(' ', '.')).toLowerCase();
};

/**
 * Who may be meant where somebody types an @.
 * @param caret where the next letter goes
 * @returns where the name begins, and up to four colleagues; none where no @ is being typed
 */
export function calledAt(
  text: string,
  caret: number,
  team: readonly { id: string; name: string }[],
): { start: number; choices: Called[] } {
  const begun = BEGUN.exec(text.slice(0, caret))?.[1];
  if (begun === undefined) return { start: caret, choices: [] };
  const typed = fold(begun.replaceAll('.', ' '));
  const names = team.map(({ name }) => name);
  const choices = team
    .filter(
      ({ name }) =>
        fold(name).startsWith(typed) ||
        fold(name)
          .split(' ')
          .some((part) => part.startsWith(typed)),
    )
    .map(({ id, name }) => ({ id, name, handle: handleOf(name, names) }))
    // Whoever is called in full already needs no help.
    .filter(({ handle }) => handle !== begun.toLowerCase());
  return { start: caret - begun.length, choices: choices.slice(0, MOST) };
}
