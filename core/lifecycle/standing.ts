/** What a person is to us. */
export const STANDINGS = [
  'stranger',
  'prospect',
  'customer',
  'past customer',
  'partner',
  'personal',
] as const;
export type Standing = (typeof STANDINGS)[number];

/** What somebody is once a deal with them is won: a customer, unless they are more than that to us. */
export const standingWhenWon = (standing: Standing): Standing =>
  standing === 'partner' || standing === 'personal' ? standing : 'customer';

/** What somebody is once there is a lead or a deal with them: a stranger becomes a prospect, others stay what they are. */
export const standingWithWork = (standing: Standing): Standing =>
  standing === 'stranger' ? 'prospect' : standing;
