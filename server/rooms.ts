import type { Room } from './http/room';
import { followers } from './followers';
import { followJob } from './jobs/follow';
import { accuracy } from './accuracy/room';
import { bulk } from './bulk/room';
import { calendar } from './calendar/room';
import { caldav } from './caldav/room';
import { calls } from './calls/room';
import { captures } from './captures/room';
import { cases } from './cases/room';
import { cloning } from './cloning/room';
import { companies } from './companies/room';
import { deals } from './deals/room';
import { events } from './events/room';
import { exports } from './exports/room';
import { fields } from './fields/room';
import { files } from './files/room';
import { forecast } from './forecast/room';
import { forms } from './forms/room';
import { history } from './history/room';
import { imports } from './imports/room';
import { leads } from './leads/room';
import { leaving } from './leaving/room';
import { ledger } from './ledger/room';
import { consent } from './consent/room';
import { letters } from './letters/room';
import { lookalikes } from './lookalikes/room';
import { lookups } from './lookups/room';
import { mailboxes } from './mailboxes/room';
import { meetings } from './meetings/room';
import { notices } from './notices/room';
import { outbox } from './outbox/room';
import { people } from './people/room';
import { pipelines } from './pipelines/room';
import { places } from './places/room';
import { presence } from './presence/room';
import { privacy } from './privacy/room';
import { products } from './products/room';
import { projects } from './projects/room';
import { qualifying } from './qualifying/room';
import { query } from './query/room';
import { quotes } from './quotes/room';
import { relations } from './relations/room';
import { roles } from './roles/room';
import { round } from './round/room';
import { search } from './search/room';
import { session } from './session/room';
import { settings } from './settings/room';
import { summaries } from './summaries/room';
import { tags } from './tags/room';
import { tasks } from './tasks/room';
import { terms } from './terms/room';
import { triage } from './triage/room';
import { visibility } from './visibility/room';

/** Every capability of the program. A new one is added here, and nowhere else. */
export const rooms: readonly Room[] = [
  accuracy,
  bulk,
  calendar,
  caldav,
  calls,
  captures,
  cases,
  cloning,
  companies,
  consent,
  deals,
  events,
  exports,
  fields,
  files,
  forecast,
  forms,
  history,
  imports,
  leads,
  leaving,
  ledger,
  letters,
  lookalikes,
  lookups,
  mailboxes,
  meetings,
  notices,
  outbox,
  people,
  pipelines,
  places,
  presence,
  privacy,
  products,
  projects,
  qualifying,
  query,
  quotes,
  relations,
  roles,
  round,
  search,
  session,
  settings,
  summaries,
  tags,
  tasks,
  terms,
  triage,
  visibility,
];

/** What is done outside the house, by all of them. */
const effects = rooms.flatMap((room) => room.effects ?? []);

/** Every table with what it points to. */
const tables = rooms.flatMap((room) => room.tables ?? []);

/** What the tools of every process are told of the capabilities. */
export const installed = { followers, effects, tables };

/** What is done in the background, by all of them. */
export const jobs = [
  followJob,
  ...rooms.flatMap((room) => room.jobs ?? []),
  ...effects.map((effect) => effect.job),
];
