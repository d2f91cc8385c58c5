import type { FeatureField, Features } from './features';
import { agrees, LEVEL, NameComparer, noRelation, type Agreeing } from './nameLevels';
import { SPELLINGS, WORDS } from './nameTable';
import { isAsAlike, isOneSlip } from './strings';
import { holds, isSlipOfLong, NEAR_TEXT, plainLevel } from './values';
import { AT, FAMILY, GIVEN } from './vector';

/** What two firms come to. */
const FIRM = { missing: 0, same: 1, core: 2, near: 3, part: 4, initials: 5, differs: 6 } as const;
/** A value is known to be of many from so many people on. */
const MANY = 3;
/** A table of fewer rows is weighed as one of so many: with next to nobody in it, nothing is rare. */
export const LEAST_ROWS = 1000;
/** So many rows of a table that nobody has seen count beside those that are there, when a value's share is reckoned. */
const UNSEEN = 200;
const USUAL_GIVEN = 1 / 250;
const USUAL_FAMILY = 1 / 2500;
const MOST = 12;
/** Beyond this it does not matter how much rarer or commoner a whole name is than one of its kind in the table. */
const RARE = 8;

/** Compares rows of one table. */
export class PairComparer {
  private readonly names: NameComparer;
  private readonly relation = noRelation();
  private readonly rows: number;
  private readonly logRows: number;

  constructor(private readonly features: Features) {
    this.names = new NameComparer(features.names, features.strings);
    this.rows = Math.max(LEAST_ROWS, features.rows);
    this.logRows = Math.log(this.rows);
  }

  /** Writes what is known of two rows into a vector of `FEATURES` numbers. Symmetric in the rows. */
  compare(a: number, b: number, out: Float64Array): void {
    out.fill(0);
    const { fields } = this.features;
    this.nameFeatures(a, b, out);
    let isAny = false;
    let place = { first: 0, second: 0, agreements: 0, disagreements: 0 };
    const at = (rarity: number): void => {
      place.agreements++;
      if (rarity > place.first) place = { ...place, first: rarity, second: place.first };
      else if (rarity > place.second) place.second = rarity;
    };
    for (const field of fields) {
      const { kind } = field;
      if (kind === 'email') isAny = this.emailFeatures(field, a, b, out, at) || isAny;
      else if (kind === 'phone') isAny = this.phoneFeatures(field, a, b, out, at) || isAny;
      else if (kind === 'company') {
        const level = this.firmLevel(field, a, b, at);
        if (level) out[AT.firm1 + level - 1] = 1;
        isAny ||= level !== FIRM.missing;
      } else {
        const level = plainLevel(this.features.strings, field, a, b);
        if (!level) continue;
        isAny = true;
        const rarity = level === 1 ? this.rarityOf(field, field.values[0]?.[a] ?? 0) : 0;
        if (kind === 'street' || kind === 'postcode' || kind === 'city') {
          if (level === 1) at(rarity);
          else if (level === 2) at(1);
          else place.disagreements++;
        } else {
          const of: 'day' | 'other' = kind === 'date' ? 'day' : 'other';
          if (kind === 'title') {
            if (level === 1) more(out, AT.otherRarity, Math.min(2, rarity));
          } else if (level === 1) more(out, AT[`${of}Rarity`], rarity);
          else more(out, level === 2 ? AT[`${of}Nearly`] : AT[`${of}Another`], 1);
        }
      }
    }
    out[AT.placeRarity] = place.first;
    out[AT.placeSecondRarity] = place.second;
    out[AT.placeAgreements] = place.agreements;
    out[AT.placeDisagreements] = place.disagreements;
    if (!isAny) out[AT.onlyAName] = 1;
    const isShared = Boolean(out[AT.numberSame] || out[AT.addressSame]);
    if (isShared && this.relation.given === LEVEL.differs) out[AT.sharedChannelGivenDiffers] = 1;
  }

  /** The natural logarithm of how seldom a value stands in the table. */
  private rarityOf(field: FeatureField, id: number): number {
    return Math.max(0, Math.log((this.rows + 1) / Math.max(1, (field.counts[id] ?? 1) - 1)));
  }

  private nameFeatures(a: number, b: number, out: Float64Array): void {
    const { names } = this.features;
    const { rows } = this;
    const { relation } = this;
    const [one, two] = [names.of[a] as number, names.of[b] as number];
    this.names.compare(one, two, relation);
    out[GIVEN + relation.given] = 1;
    out[FAMILY + relation.family] = 1;
    const given = agrees(relation.given)
      ? this.wordRarity(relation.givenWords, relation.given, 0, USUAL_GIVEN, rows)
      : 0;
    const family = agrees(relation.family)
      ? this.wordRarity(relation.familyWords, relation.family, 1, USUAL_FAMILY, rows)
      : 0;
    out[AT.rarityOfGiven] = given;
    out[AT.rarityOfFamily] = family;
    if (relation.isSwapped) out[AT.swapped] = 1;
    if (given && family) {
      out[AT.wholeNameAgrees] = 1;
      out[AT.rarityWhereBothAgree] = Math.max(-RARE, Math.min(RARE, given + family - this.logRows));
    }
    if (family && relation.given === LEVEL.differs) out[AT.familyAgreesGivenDiffers] = 1;
    const [oldA, oldB] = [names.marks[2 * one] as number, names.marks[2 * two] as number];
    if (oldA && oldB && oldA !== oldB) out[AT.otherGeneration] = 1;
    else if (oldA !== oldB) out[AT.generationOnOneSide] = 1;
    const [sexA, sexB] = [names.marks[2 * one + 1] as number, names.marks[2 * two + 1] as number];
    if (sexA && sexB && sexA !== sexB) out[AT.otherSex] = 1;
  }

  /** How seldom words of a name, or what agrees with them at a level, stand in the table. */
  private wordRarity(words: Agreeing, level: number, isFamily: number, usual: number, rows: number): number {
    const { names, strings } = this.features;
    let count = 0;
    for (const word of words)
      if (level === LEVEL.initial) {
        const letter = strings.units[
          strings.starts[names.spellings[word * SPELLINGS] as number] as number
        ] as number;
        count = Math.max(count, names.initialCounts[2 * letter + isFamily] as number);
      } else
        for (let at = 0; at < SPELLINGS; at++) {
          const key = names.keys[word * SPELLINGS + at] as number;
          if (!key) break;
          count = Math.max(count, names.counts[2 * key + isFamily] as number);
        }
    if (level === LEVEL.near) count *= 3;
    const share = (Math.max(0, count - 1) + UNSEEN * usual) / (rows + UNSEEN);
    return Math.min(MOST, Math.max(0.05, -Math.log(share)));
  }

  /** How much two people of one channel are likelier to be one for having it: the fewer have it the more. */
  private channelRarity(field: FeatureField, id: number): number {
    return this.logRows - Math.log(Math.max(0.3, (field.holders[id] as number) - 0.7));
  }

  /** Whether the address of one row spells the family name of the other. */
  private spellsOther({ derived }: FeatureField, a: number, b: number): boolean {
    const { names, strings } = this.features;
    const local = derived[0]?.[a] ?? 0;
    const word = names.words[(names.of[b] as number) * 2 * WORDS + WORDS] as number;
    if (!local || !word) return false;
    for (let at = 0; at < SPELLINGS; at++) {
      const spelling = names.spellings[word * SPELLINGS + at] as number;
      if (!spelling) return false;
      if (holds(strings, local, spelling)) return true;
    }
    return false;
  }

  private emailFeatures(
    field: FeatureField,
    a: number,
    b: number,
    out: Float64Array,
    at: (rarity: number) => void,
  ): boolean {
    const { values, derived } = field;
    if (this.spellsOther(field, a, b) || this.spellsOther(field, b, a)) out[AT.addressSpellsTheOther] = 1;
    let isThere = false;
    let best = 0;
    for (const one of values)
      for (const other of values) {
        const [x, y] = [one[a] as number, other[b] as number];
        if (!x || !y) continue;
        isThere = true;
        if (x === y) best = x;
      }
    if (!isThere) return false;
    const [local, domain, role] = derived as [Int32Array, Int32Array, Int32Array];
    if (best) {
      if (role[a] || (field.holders[best] as number) >= MANY) {
        out[AT.addressMailboxOfMany] = 1;
        at(this.channelRarity(field, best));
      } else {
        out[AT.addressSame] = 1;
        out[AT.addressRarity] = this.channelRarity(field, best);
      }
      return true;
    }
    const { strings } = this.features;
    const [mine, theirs] = [values[0]?.[a] ?? 0, values[0]?.[b] ?? 0];
    const isSameFirm = Boolean(domain[a]) && domain[a] === domain[b];
    if (isSameFirm) at(this.rarityOf(field, domain[a] as number));
    if (local[a] && local[a] === local[b]) out[AT.addressSameBeforeTheAt] = 1;
    else if (
      isOneSlip(strings, mine, theirs) ||
      (local[a] && local[b] && isSlipOfLong(strings, local[a], local[b] as number))
    )
      out[AT.addressNearly] = 1;
    else if (isSameFirm && local[a] && local[b]) out[AT.addressAnotherAtTheSameFirm] = 1;
    else if (local[a] && local[b]) out[AT.addressAnother] = 1;
    return true;
  }

  private phoneFeatures(
    field: FeatureField,
    a: number,
    b: number,
    out: Float64Array,
    at: (rarity: number) => void,
  ): boolean {
    const { values, holders } = field;
    let [isThere, best, isNear] = [false, 0, false];
    for (const one of values)
      for (const other of values) {
        const [x, y] = [one[a] as number, other[b] as number];
        if (!x || !y) continue;
        isThere = true;
        if (x === y && (!best || (holders[x] as number) < (holders[best] as number))) best = x;
        else if (x !== y && isOneSlip(this.features.strings, x, y)) isNear = true;
      }
    if (!isThere) return false;
    if (best && (holders[best] as number) < MANY) {
      out[AT.numberSame] = 1;
      out[AT.numberRarity] = this.channelRarity(field, best);
      return true;
    }
    if (best) at(this.channelRarity(field, best));
    // Two numbers of their own in the same column speak against, those of an office do not.
    const isOwn = values.some((column) => {
      const [x, y] = [column[a] as number, column[b] as number];
      return x && y && x !== y && (holders[x] as number) < MANY && (holders[y] as number) < MANY;
    });
    if (isNear) out[AT.numberNearly] = 1;
    else if (isOwn) out[AT.numberAnotherOfTheirOwn] = 1;
    else if (!best) out[AT.numberAnother] = 1;
    return true;
  }

  private firmLevel(field: FeatureField, a: number, b: number, at: (rarity: number) => void): number {
    const [keys] = field.values;
    const [core, first, initials] = field.derived as [Int32Array, Int32Array, Int32Array];
    const [one, two] = [keys?.[a] ?? 0, keys?.[b] ?? 0];
    if (!one || !two) return FIRM.missing;
    const rare = (list: Int32Array): void =>
      at(Math.min(this.rarityOf(field, list[a] as number), this.rarityOf(field, list[b] as number)));
    if (one === two) {
      rare(core);
      return FIRM.same;
    }
    if (core[a] === core[b]) {
      rare(core);
      return FIRM.core;
    }
    const { strings } = this.features;
    const isNear =
      isOneSlip(strings, one, two) ||
      isAsAlike(strings, one, two, NEAR_TEXT) ||
      isSlipOfLong(strings, core[a] as number, core[b] as number);
    if (isNear) {
      rare(core);
      return FIRM.near;
    }
    if (first[a] && first[a] === first[b]) {
      rare(first);
      return FIRM.part;
    }
    if (initials[a] && initials[a] === initials[b]) {
      rare(initials);
      return FIRM.initials;
    }
    return FIRM.differs;
  }
}

const more = (out: Float64Array, at: number, by: number): void => {
  out[at] = (out[at] as number) + by;
};
