import type { Storage } from '@emporikon/core/query/sql/storage';
import { company, person } from './people';
import { deal, lead, task } from './sales';
import { capture, caseKind, entry, project } from './work';

/** Where the database holds what can be asked of records. */
export const STORAGE: Storage = {
  person,
  company,
  lead,
  deal,
  task,
  project,
  case: caseKind,
  entry,
  capture,
};
