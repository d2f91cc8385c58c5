import type { Followers } from './commands/types';
import { syncAfter } from './caldav/jobs';
import { keepDealStates } from './deals/states';
import { enterConsents } from './consent/enter';
import { honourStops } from './consent/stops';
import { enterChanges } from './ledger/changes';
import { followTurns } from './ledger/turns';
import { lookUpAfter } from './lookups/automatic';
import { keepPastWork } from './people/pastWork';
import { inviteAfter } from './meetings/invite';
import { followNotices } from './notices/follow';
import { followReminders } from './tasks/reminders';
import { followRound } from './round/keep';
import { placeAfter } from './places/jobs';
import { keepMailedFiles } from './files/mailed';
import { noteAnswers } from './letters/answered';
import { scoreAfter } from './qualifying/touched';
import { keepSpellings } from './search/spellings';
import { keepWorkedWith } from './search/worked';

/** What follows the events of commands: with them, in their transaction, or after it through the queue. */
export const followers: Followers = {
  completes: [keepPastWork, enterChanges, enterConsents],
  within: [
    keepDealStates,
    keepWorkedWith,
    keepSpellings,
    followTurns,
    followRound,
    followNotices,
    followReminders,
  ],
  after: [
    scoreAfter,
    lookUpAfter,
    inviteAfter,
    keepMailedFiles,
    syncAfter,
    placeAfter,
    noteAnswers,
    honourStops,
  ],
};
