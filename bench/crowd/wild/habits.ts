import type { Random } from '../errors';

/** How often each way of writing a person down otherwise happens, as shares of copies, and how often hard cases stand beside; ours. */
export const USUAL = {
  nickname: 0.3,
  initial: 0.09,
  otherScript: 0.55,
  otherRomanisation: 0.5,
  oneColumn: 0.12,
  swapped: 0.05,
  familyFirst: 0.18,
  surnameDropped: 0.35,
  particle: 0.4,
  married: 0.03,
  secondName: 0.4,
  firmOtherwise: 0.4,
  movedJob: 0.08,
  slip: 0.1,
  titled: 0.06,
  thin: 0.3,
  thinner: 0.15,
  fatherAndSon: 0.008,
  namesakes: 0.006,
  relatives: 0.03,
  mailbox: 0.06,
  alike: 0.08,
  noCity: 0.2,
  noPhone: 0.3,
  noMail: 0.25,
  noMobile: 0.3,
};
/** The habits of a house: how often each thing happens there. */
export type Habits = typeof USUAL;
/** Other habits for every seed, so that nothing is learnt that holds in one house only. */
export function habitsOf(random: Random): Habits {
  return Object.fromEntries(
    Object.entries(USUAL).map(([name, share]) => [name, Math.min(0.9, share * (0.3 + 1.4 * random()))]),
  ) as Habits;
}
