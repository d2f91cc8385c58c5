import type { CloneKind, ClonePart } from '@emporikon/contract/cloning';
import { counted } from '../shell/format';

const PATHS: Readonly<Record<CloneKind, string>> = {
  person: '/people/',
  company: '/companies/',
  lead: '/leads/',
  deal: '/deals/',
  task: '/round?task=',
  project: '/projects/',
  case: '/cases/',
};
/** Where the page of a record is. */
export const pathOf = (kind: CloneKind, id: string): string => `${PATHS[kind]}${id}`;

const FACTS: Partial<Record<CloneKind, string>> = {
  person: 'Company, department and standing',
  company: 'Address, industry and size',
};
const NOTES: Partial<Record<CloneKind, string>> = {
  person: 'Background',
  task: 'Notes and steps',
  case: 'Description',
};

/** What comes along, with how much of it there is. */
export function wordsOfPart(kind: CloneKind, part: ClonePart, count: number): string {
  switch (part) {
    case 'facts':
      return FACTS[kind] ?? 'Facts';
    case 'notes':
      return NOTES[kind] ?? 'Notes';
    case 'tags':
      return 'Tags';
    case 'fields':
      return counted(count, 'own field');
    case 'people':
      return counted(count, 'person', 'people');
    case 'lines':
      return counted(count, 'product line');
    case 'answers':
      return counted(count, 'answer to the qualifying questions', 'answers to the qualifying questions');
    case 'lists':
      return counted(count, 'list they are on', 'lists they are on');
    case 'tasks':
      return counted(count, 'open task');
  }
}
