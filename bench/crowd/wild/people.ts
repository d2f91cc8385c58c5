import { pick, plain, randomFrom, slip, misheard, type Random } from '../errors';
import { CITIES } from '../names';
import { firmOf, type Firm } from './firms';
import { habitsOf, USUAL, type Habits } from './habits';
import { culturesOf, type Culture, type Form, type Part } from './names';

export interface WildRow {
  id: string;
  given: string;
  family: string;
  company: string;
  email: string;
  mobile: string;
  phone: string;
  city: string;
}
export interface WildCrowd {
  rows: WildRow[];
  /** Whom each row is of. */
  who: Int32Array;
  /** What was done to each row when it was written down, by name. */
  how: string[][];
}

/** A person, of whom every row is a writing down. */
interface Person {
  culture: Culture;
  given: Form;
  second: Form | null;
  families: readonly Form[];
  particle: string;
  generation: string;
  title: string;
  firm: Firm | null;
  email: string;
  own: string;
  mobile: string;
  phone: string;
  city: string;
}

const digits = (random: Random, count: number): string =>
  Array.from({ length: count }, () => Math.floor(random() * 10)).join('');
const FREE = ['freemail.example', 'webmail.example', 'homemail.example', 'postbox.example'];
/** The first are common and the last rare (Zipf's law, about). */
const common = <T>(random: Random, list: readonly T[]): T =>
  list[Math.min(list.length - 1, Math.floor(list.length * random() ** 1.6))] as T;
const latin = (form: Form): string => form.latin[0] ?? form.own;
const ascii = (text: string): string =>
  plain(text)
    .toLowerCase()
    .replace(/[^a-z]/g, '');

function addressOf(random: Random, given: Form, family: Form, domain: string, isFree: boolean): string {
  const [first, last] = [ascii(latin(given)) || 'x', ascii(latin(family)) || 'x'];
  const end = isFree && random() < 0.6 ? digits(random, 2) : '';
  const nick = given.short.length && isFree && random() < 0.3 ? ascii(given.short[0] ?? '') : '';
  const local = pick(random, [
    `${first}.${last}`,
    `${first[0]}${last}`,
    `${first}${last}`,
    `${first}_${last}`,
    `${last}.${first}`,
    `${first}`,
    ...(nick ? [`${nick}${last}`] : []),
  ]);
  return `${local}${local === first ? digits(random, 1) : end}@${domain}`;
}

function personOf(random: Random, cultures: readonly Culture[], firms: readonly Firm[]): Person {
  // Cultures whose names are listed by hand have few of them, and are drawn less often.
  const drawn = pick(random, cultures);
  const culture = drawn.family.length < 60 && random() < 0.4 ? pick(random, cultures) : drawn;
  const given = common(random, culture.given);
  const families = [
    common(random, culture.family),
    ...(culture.twoFamilies && random() < 0.75 ? [common(random, culture.family)] : []),
  ];
  const firm = random() < 0.85 ? common(random, firms) : null;
  const last = families[0] as Form;
  const own = addressOf(random, given, last, pick(random, FREE), true);
  return {
    culture,
    given,
    second: random() < 0.15 && culture.given.length > 60 ? common(random, culture.given) : null,
    families,
    particle: culture.particles.length && random() < 0.3 ? pick(random, culture.particles) : '',
    generation: '',
    title: pick(random, ['Mr', 'Mrs', 'Ms']),
    firm,
    own,
    email: firm && random() < 0.75 ? addressOf(random, given, last, firm.domain, false) : own,
    mobile: `+99977${digits(random, 7)}`,
    phone: firm && random() < 0.7 ? firm.switchboard : '',
    city: firm && random() < 0.8 ? firm.city : pick(random, CITIES),
  };
}

const familyOf = (person: Person, write: (form: Form) => string, join = ' '): string =>
  [person.particle, person.families.map(write).join(join)].filter(Boolean).join(' ');

/** A row of a person, as one clerk writes it down. `care` from 0 to 1; the first row of a person is written with more. */
function write(
  random: Random,
  person: Person,
  firms: readonly Firm[],
  { care, habits }: { care: number; habits: Habits },
  first: WildRow | null,
): { row: WildRow; how: string[] } {
  const how: string[] = [];
  const isFirst = first === null;
  const happens = (name: keyof Habits, times = 1): boolean => {
    const factor = isFirst ? 0.3 : 1;
    if (random() >= habits[name] * times * factor * (1.6 - care)) return false;
    how.push(name);
    return true;
  };
  const { culture } = person;
  const isForeign = person.given.latin.length > 0;
  const inLatin =
    isForeign && (isFirst ? random() < 0.6 : happens('otherScript') ? random() < 0.5 : random() < 0.6);
  const way = inLatin && happens('otherRomanisation') ? 1 + Math.floor(random() * 2) : 0;
  const written = (form: Form): string => {
    if (!form.latin.length) return form.own;
    if (inLatin) return form.latin[Math.min(way, form.latin.length - 1)] ?? form.own;
    return form.own;
  };
  const kana = !inLatin && person.given.kana && random() < 0.2;
  let given = kana ? (person.given.kana ?? '') : written(person.given);
  if (person.given.short.length && happens('nickname')) given = pick(random, person.given.short);
  else if (happens('initial') && !kana && culture.name !== 'Chinese')
    given = `${given[0] ?? ''}${random() < 0.7 ? '.' : ''}`;
  if (person.second && given.length > 2 && !happens('secondName'))
    given = `${given} ${written(person.second)}`;
  let family = kana
    ? (person.families[0]?.kana ?? '')
    : familyOf(person, written, random() < 0.8 ? ' ' : '-');
  if (person.families.length > 1 && happens('surnameDropped'))
    family = [person.particle, written(person.families[random() < 0.75 ? 0 : 1] as Form)]
      .filter(Boolean)
      .join(' ');
  if (person.particle && happens('particle')) {
    const bare = family.slice(person.particle.length + 1);
    family =
      random() < 0.5
        ? bare
        : random() < 0.5
          ? `${person.particle.replace(/ /g, '')}${bare.toLowerCase()}`
          : `${bare}, ${person.particle}`;
    if (family.includes(','))
      family = `${person.particle[0]?.toUpperCase()}${person.particle.slice(1)} ${bare}`;
  }
  if (culture.name === 'Arabic' && inLatin && random() < 0.3) family = family.replace(/^(?:Al|El)[- ]/, '');
  const isMarried = Boolean((first?.mobile || first?.email) && !kana) && happens('married');
  if (isMarried)
    family =
      random() < 0.5
        ? written(common(random, culture.family))
        : `${family}-${written(common(random, culture.family))}`;
  if (!isFirst && random() < 0.2) [given, family] = [plain(given), plain(family)];
  if (happens('slip') && given.length > 3 && !/[^\0-\u024f]/.test(given))
    given = random() < 0.6 ? slip(random, given) : misheard(random, given);
  else if (happens('slip') && family.length > 3 && !/[^\0-\u024f]/.test(family))
    family = random() < 0.6 ? slip(random, family) : misheard(random, family);
  const isJoined = !inLatin && isForeign && ['Chinese', 'Japanese', 'Korean'].includes(culture.name);
  if (person.generation && !isJoined && random() < 0.6) family = `${family} ${person.generation}`;
  if (isJoined && random() < 0.4) [given, family] = [`${family}${kana ? ' ' : ''}${given}`, ''];
  else if (culture.familyFirst && happens('familyFirst'))
    [given, family] = random() < 0.5 ? [`${family} ${given}`, ''] : [family, given];
  else if (happens('oneColumn'))
    [given, family] =
      random() < 0.5
        ? [`${given} ${family}`, '']
        : random() < 0.7
          ? [`${family}, ${given}`, '']
          : ['', `${given} ${family}`];
  else if (happens('swapped')) [given, family] = [family, given];
  else if (happens('titled') && given.length > 2) given = `${person.title} ${given}`;
  let { firm, email } = person;
  const isMoved = Boolean(first?.mobile && firm) && happens('movedJob');
  if (isMoved && firm) {
    firm = pick(random, firms);
    email =
      random() < 0.5 ? addressOf(random, person.given, person.families[0] as Form, firm.domain, false) : '';
  } else if (!isFirst && random() < 0.2) email = person.own;
  let company = firm?.name ?? '';
  if (firm && happens('firmOtherwise')) company = pick(random, firm.others);
  const row: WildRow = {
    id: '',
    given,
    family,
    company,
    email: random() < habits.noMail && !isMarried ? '' : email,
    mobile: random() < habits.noMobile && !(isMoved || isMarried) ? '' : person.mobile,
    phone: random() < habits.noPhone ? '' : firm === person.firm ? person.phone : (firm?.switchboard ?? ''),
    city: random() < habits.noCity ? '' : firm === person.firm ? person.city : (firm?.city ?? ''),
  };
  if (random() < 0.4) row.mobile = row.mobile.replace(/^\+999/, '0').replace(/(\d{3})(\d{4})$/, '$1 $2');
  const thinness = random();
  // Of somebody with a first name and one channel that nobody else has, nobody could say who it is.
  const channel = first && (['email', 'mobile'] as const).filter((one) => first[one] && person[one]);
  if (channel?.length && thinness < habits.thinner) {
    how.push('thinner');
    Object.assign(row, {
      given: kana ? given : written(person.given),
      family: '',
      company: '',
      phone: '',
      city: '',
    });
    Object.assign(row, { email: '', mobile: '' });
    const kept = pick(random, channel);
    row[kept] = person[kept];
    // Nobody could follow somebody with another firm or family name and nothing else.
  } else if (thinness < habits.thinner + habits.thin && row.company && !isMoved && !isMarried) {
    how.push('thin');
    Object.assign(row, { email: '', mobile: '', phone: '', city: '' });
  }
  return { row, how };
}

/**
 * A labelled crowd of many cultures, some of whom were written down several times by people who write otherwise: short forms,
 * scripts, romanisations, orders, columns, particles, surnames dropped, firms under other names, rows with next to nothing in
 * them; and beside them fathers and sons, namesakes at one firm, colleagues with a switchboard or an office mailbox, and
 * relatives with one address or number.
 * @param size how many rows, about
 * @param part whose names: those for tuning or those for testing
 */
export function wildCrowd(
  size: number,
  seed: number,
  part: Part,
  { care = 0.6, isUsual = true } = {},
): WildCrowd {
  const random = randomFrom(seed);
  const habits = isUsual ? USUAL : habitsOf(random);
  const cultures = culturesOf(part);
  const firms = Array.from({ length: Math.max(20, Math.floor(size / 8)) }, () =>
    firmOf(random, pick(random, cultures)),
  );
  const all: { row: WildRow; who: number; how: string[] }[] = [];
  let who = 0;
  const add = (person: Person): void => {
    const copies = random() < 0.72 ? 0 : random() < 0.75 ? 1 : 2;
    let first: WildRow | null = null;
    for (let copy = 0; copy <= copies; copy++) {
      const made = write(random, person, firms, { care, habits }, first);
      first ??= made.row;
      all.push({ ...made, who });
    }
    who++;
  };
  while (all.length < size) {
    const person = personOf(random, cultures, firms);
    const other = personOf(random, [person.culture], firms);
    let left = random();
    const falls = (share: number): boolean => {
      left -= share;
      return left < 0 && left + share >= 0;
    };
    const isFather = falls(habits.fatherAndSon);
    if (isFather && random() < 0.5) person.generation = 'Sr.';
    add(person);
    const shared = { culture: person.culture, families: person.families, particle: person.particle };
    if (isFather) {
      // Father and son, of one name.
      add({
        ...other,
        ...shared,
        given: person.given,
        city: person.city,
        firm: person.firm,
        generation: 'Jr.',
        phone: person.phone,
      });
    } else if (falls(habits.namesakes) && person.firm) {
      // Namesakes at one firm.
      add({
        ...other,
        ...shared,
        given: person.given,
        firm: person.firm,
        city: person.city,
        phone: person.phone,
        email: other.own,
      });
    } else if (falls(habits.relatives)) {
      // Relatives: one household's address or number.
      add({
        ...other,
        ...shared,
        city: person.city,
        ...(random() < 0.5 ? { email: person.own, own: person.own } : { mobile: person.mobile }),
      });
    } else if (falls(habits.mailbox) && person.firm) {
      // Colleagues who write from the office's mailbox.
      add({
        ...other,
        firm: person.firm,
        email: person.firm.mailbox,
        phone: person.firm.switchboard,
        city: person.firm.city,
      });
    } else if (falls(habits.alike)) {
      // Strangers with names much alike.
      add({ ...other, given: person.given });
      add({ ...personOf(random, [person.culture], firms), families: person.families });
    }
  }
  for (let at = all.length - 1; at > 0; at--) {
    const two = Math.floor(random() * (at + 1));
    [all[at], all[two]] = [all[two] as (typeof all)[number], all[at] as (typeof all)[number]];
  }
  return {
    rows: all.map(({ row }, at) => ({ ...row, id: `r${at + 1}` })),
    who: Int32Array.from(all, (one) => one.who),
    how: all.map((one) => one.how),
  };
}
