import type { Followers } from './commands/types';
import { keepDealStates } from './deals/states';
import { lookUpAfter } from './lookups/automatic';
import { keepPastWork } from './people/pastWork';
import { scoreAfter } from './qualifying/touched';
import { keepWorkedWith } from './search/worked';

/** What follows the events of commands: with them, in their transaction, or after it through the queue. */
export const followers: Followers = {
  completes: [keepPastWork],
  within: [keepDealStates, keepWorkedWith],
  after: [scoreAfter, lookUpAfter],
};
