import type { CompanyFacts } from '@emporikon/core/matching/firms';
import { pick, randomFrom, slip, type Random } from './errors';
import { CITIES, STREETS } from './names';
import { firmOf, TRADES, type Firm } from './wild/firms';
import { culturesOf, type Part } from './wild/names';

export interface FirmBook {
  firms: CompanyFacts[];
  /** Which firm each record is of. */
  which: Int32Array;
}

const FORMS = [
  'Ltd',
  'GmbH',
  'SARL',
  'S.L.',
  'Lda',
  'B.V.',
  'Sp. z o.o.',
  's.r.o.',
  'AB',
  'Oy',
  'ApS',
  'Kft.',
  'Inc.',
  'AG',
];
const addressOf = (random: Random, city: string): string =>
  `${1 + Math.floor(random() * 180)} ${pick(random, STREETS)}, ${city}`;

/** A firm as it is written down one time: under one of its names, with or without what else is known of it. */
function record(random: Random, firm: Firm, address: string, isFirst: boolean): CompanyFacts {
  const name = isFirst || random() < 0.45 ? firm.name : pick(random, firm.others);
  const isBare = name.split(' ').length < 2;
  // Of a brand or initials alone nobody could say whose they are.
  const keeps = isBare ? 0.95 : 0.7;
  return {
    name: random() < 0.08 ? slip(random, name) : name,
    domain: random() < keeps ? firm.domain : null,
    phone: random() < 0.5 ? firm.switchboard : null,
    address: random() < 0.5 ? (random() < 0.15 ? slip(random, address) : address) : null,
  };
}

/**
 * A labelled book of companies, some of them written down several times; beside them branches, sisters of another trade with the domain of
 * the group, and sisters in another country with a legal form of its own.
 */
export function firmBookOf(size: number, seed: number, part: Part): FirmBook {
  const random = randomFrom(seed);
  const cultures = culturesOf(part);
  const all: { facts: CompanyFacts; which: number }[] = [];
  let which = 0;
  const seen = new Set<string>();
  const stems = new Set<string>();
  while (all.length < size) {
    const firm = firmOf(random, pick(random, cultures));
    // Two firms that nobody could tell apart are drawn once.
    const stem = firm.domain.split(/[-.]/)[0] ?? '';
    if (seen.has(firm.domain) || stems.has(stem)) continue;
    seen.add(firm.domain);
    stems.add(stem);
    const address = addressOf(random, firm.city);
    const copies = random() < 0.6 ? 0 : random() < 0.7 ? 1 : 2;
    for (let copy = 0; copy <= copies; copy++)
      all.push({ facts: record(random, firm, address, copy === 0), which });
    which++;
    const kind = random();
    const bare = firm.others[0] ?? firm.name;
    const elsewhere = pick(random, CITIES);
    const sister = (name: string, domain: string | null): void => {
      all.push({ facts: { name, domain, phone: null, address: addressOf(random, elsewhere) }, which });
      which++;
    };
    if (kind < 0.05) sister(`${bare} ${elsewhere}`, random() < 0.5 ? firm.domain : null);
    else if (kind < 0.09) {
      const word = bare.split(' ').at(-1) ?? '';
      const others = TRADES.filter((words) => !words.includes(word)).flat();
      sister(
        `${bare.slice(0, -word.length)}${pick(random, others)} ${pick(random, FORMS)}`,
        random() < 0.6 ? firm.domain : null,
      );
    } else if (kind < 0.11)
      sister(`${bare} ${pick(random, FORMS)}`, `${firm.domain.split('.')[0]}-group.example`);
  }
  return { firms: all.map((one) => one.facts), which: Int32Array.from(all, (one) => one.which) };
}
