import { LEVEL, LEVELS_OF_NAME } from './nameLevels';

/** What is known of a pair of rows besides the levels of the two halves of the name, in the order in which it stands in a vector. */
const KNOWN = [
  'rarityOfGiven',
  'rarityOfFamily',
  'rarityWhereBothAgree',
  'swapped',
  'wholeNameAgrees',
  'familyAgreesGivenDiffers',
  'otherGeneration',
  'generationOnOneSide',
  'otherSex',
  'addressRarity',
  'addressSame',
  'addressMailboxOfMany',
  'addressSameBeforeTheAt',
  'addressNearly',
  'addressAnotherAtTheSameFirm',
  'addressAnother',
  'numberRarity',
  'numberSame',
  'numberNearly',
  'numberAnotherOfTheirOwn',
  'numberAnother',
  'firm1',
  'firm2',
  'firm3',
  'firm4',
  'firm5',
  'firm6',
  'placeRarity',
  'placeSecondRarity',
  'placeAgreements',
  'placeDisagreements',
  'dayRarity',
  'dayNearly',
  'dayAnother',
  'otherRarity',
  'otherNearly',
  'otherAnother',
  'sharedChannelGivenDiffers',
  'onlyAName',
  'addressSpellsTheOther',
] as const;
/** By level of the given name, by level of the family name, and the rest. */
export const FEATURE_NAMES: readonly string[] = [
  ...Object.keys(LEVEL).map((level) => `given: ${level}`),
  ...Object.keys(LEVEL).map((level) => `family: ${level}`),
  ...KNOWN,
];
export const FEATURES = FEATURE_NAMES.length;
export const GIVEN = 0;
export const FAMILY = LEVELS_OF_NAME;
export const AT = Object.fromEntries(KNOWN.map((name, at) => [name, 2 * LEVELS_OF_NAME + at])) as Record<
  (typeof KNOWN)[number],
  number
>;

/** What speaks against two rows in itself, in natural logarithms of odds; by judgement. */
const AGAINST: readonly (readonly [number, number])[] = [
  [GIVEN + LEVEL.differs, 4],
  [GIVEN + LEVEL.partly, 2],
  [FAMILY + LEVEL.differs, 3],
  [FAMILY + LEVEL.partly, 2],
  [AT.otherGeneration, 4],
  [AT.generationOnOneSide, 1],
  [AT.otherSex, 3],
  [AT.addressAnotherAtTheSameFirm, 2.5],
  [AT.addressAnother, 1],
  [AT.numberAnotherOfTheirOwn, 1.5],
  [AT.dayAnother, 3],
];

/** How much speaks against two rows of which this is known, apart from what they lack; 0 or more. */
export const against = (vector: Float64Array): number =>
  AGAINST.reduce((sum, [at, weight]) => sum + (vector[at] as number) * weight, 0);
