import type { File } from '@emporikon/contract/files';

/** What a scanner says of a file, where that keeps it from being opened. */
export const stateWords = ({ state, finding }: Pick<File, 'state' | 'finding'>): string =>
  state === 'waiting'
    ? 'Being scanned'
    : state === 'infected'
      ? `The scanner found ${finding}; it cannot be opened`
      : '';

/** Where the bytes of a version are: to be saved, or to be shown in the page. */
export const contentOf = (id: string, number: number, isShown = false): string =>
  `/api/files/${id}/content?number=${number}${isShown ? '&show=here' : ''}`;
