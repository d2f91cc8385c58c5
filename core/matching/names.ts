import { scriptOf, type Script } from '../people/naming/scripts';
import { Dictionary } from './linkage/strings';
import { NameBuilder } from './linkage/nameTable';
import { agrees, LEVEL, NameComparer, noRelation, type NameRelation } from './linkage/nameLevels';

/** What two names come to, as the linkage compares them. */
export interface ComparedNames extends NameRelation {
  /** One says Sr. and the other Jr. */
  isOtherGeneration: boolean;
}

/** Two names have so few words. */
const FEW = 64;

/** Two names as they are written, each whole, compared word by word in all scripts. */
export function comparedNames(a: string, b: string): ComparedNames {
  const dictionary = new Dictionary();
  const builder = new NameBuilder(dictionary);
  builder.add('', a, '');
  builder.add('', b, '');
  const table = builder.finish();
  const relation = noRelation();
  const [one = 0, two = 0] = table.of;
  new NameComparer(table, dictionary.pack(), FEW).compare(one, two, relation);
  const [mine, theirs] = [table.marks[2 * one], table.marks[2 * two]];
  return { ...relation, isOtherGeneration: Boolean(mine && theirs && mine !== theirs) };
}

const WRITTEN_IN: Partial<Record<Script, string>> = {
  cyrillic: 'Cyrillic',
  greek: 'Greek',
  kana: 'kana',
  han: 'Chinese characters',
  hangul: 'Hangul',
  arabic: 'Arabic',
};

/** How two names agree, in words; of names of two scripts which is written in which. */
export function agreementInWords(a: string, b: string, { given, family, isSwapped }: NameRelation): string {
  const [mine, theirs] = [scriptOf(a), scriptOf(b)];
  const other = mine === 'latin' ? theirs : mine;
  const script = WRITTEN_IN[other];
  if (mine !== theirs && script) {
    const [foreign, latin] = other === mine ? [a, b] : [b, a];
    return `${foreign} is ${latin} written in ${script}`;
  }
  if (given === LEVEL.initial || family === LEVEL.initial) return 'family name and initial agree';
  if (family === LEVEL.part) return 'one of two family names agrees';
  if (given === LEVEL.near || family === LEVEL.near) return 'name nearly agrees';
  if (isSwapped) return 'name agrees the other way round';
  if (given === LEVEL.short || family === LEVEL.short) return 'name agrees in another form';
  return given === LEVEL.part ? 'one of several given names agrees' : 'name agrees in another spelling';
}

/** Whether both halves of two names agree in one way or another. */
export const agreeInBoth = ({ given, family }: NameRelation): boolean => agrees(given) && agrees(family);
