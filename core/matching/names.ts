import { scriptOf, type Script } from '../people/naming/scripts';
import { Dictionary } from './linkage/strings';
import { NameBuilder, type NameTable } from './linkage/nameTable';
import { agrees, LEVEL, NameComparer, noRelation, type NameRelation } from './linkage/nameLevels';

/** What two names come to, as the linkage compares them. */
export interface ComparedNames extends NameRelation {
  /** One says Sr. and the other Jr. */
  isOtherGeneration: boolean;
}

/** Pairs of words whose likeness is kept; a power of two. */
const KEPT = 1024;

interface TakenApart {
  places: ReadonlyMap<string, number>;
  table: NameTable;
  comparer: NameComparer;
}

function takenApart(names: readonly string[]): TakenApart {
  const places = new Map<string, number>();
  const dictionary = new Dictionary();
  const builder = new NameBuilder(dictionary);
  for (const name of names) {
    if (places.has(name)) continue;
    places.set(name, places.size);
    builder.add('', name, '');
  }
  const table = builder.finish();
  return { places, table, comparer: new NameComparer(table, dictionary.pack(), KEPT) };
}

/**
 * Some names as they are written, each whole, to be compared word by word in all scripts: each is taken apart once, when the
 * first two are compared.
 */
export class NamesAtHand {
  private parts: TakenApart | null = null;

  constructor(private readonly names: readonly string[]) {}

  /** Two of them. @throws where one is not among them */
  compare(a: string, b: string): ComparedNames {
    const { places, table, comparer } = (this.parts ??= takenApart(this.names));
    const { of, marks } = table;
    const [first, second] = [places.get(a), places.get(b)];
    if (first === undefined || second === undefined) throw new Error('A name is not at hand.');
    const [one = 0, two = 0] = [of[first], of[second]];
    const relation = noRelation();
    comparer.compare(one, two, relation);
    const [mine, theirs] = [marks[2 * one], marks[2 * two]];
    return { ...relation, isOtherGeneration: Boolean(mine && theirs && mine !== theirs) };
  }
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
