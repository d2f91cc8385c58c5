import { readonly, ref } from 'vue';

const wanted = ref<{ words: string } | null>(null);

/** Answering a colleague's note: the line below the ledger begins with their name. */
export const answering = readonly(wanted);

/** "Ines Tolland" is called as `@ines.tolland`, which names nobody else. */
export const calledAs = (name: string): string =>
  `@${name
    .trim()
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .join('.')}`;

export function answerTo(name: string): void {
  wanted.value = { words: `${calledAs(name)} ` };
}
