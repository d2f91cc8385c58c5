import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { searchHandlers } from './routes';
import { spellWordsJob } from './spellings';

export const search: Room = {
  name: 'search',
  routes: [searchHandlers],
  jobs: [spellWordsJob],
  tables: plain(
    'ground',
    'find_records',
    'find_words',
    'find_vocabulary',
    'find_spellings',
    'find_unspelt',
    'find_places',
    'worked_with',
  ),
};
