import type { z } from 'zod';
import { callRoutes } from './calls';
import { captureRoutes } from './captures';
import type { RouteSpec } from './common';
import { caseRoutes } from './cases';
import { cloningRoutes } from './cloning';
import { companyRoutes } from './companies';
import { dealRoutes } from './deals';
import { eventRoutes } from './events';
import { fieldRoutes } from './fields';
import { fileRoutes } from './files';
import { forecastRoutes } from './forecast';
import { formRoutes } from './forms';
import { historyRoutes } from './history';
import { importRoutes } from './imports';
import { leadRoutes } from './leads';
import { leavingRoutes } from './leaving';
import { ledgerRoutes } from './ledger';
import { consentRoutes } from './consent';
import { letterRoutes } from './letters';
import { mailOutRoutes } from './mailOut';
import { caldavRoutes } from './caldav';
import { calendarRoutes } from './calendar';
import { meetingRoutes } from './meetings';
import { noticeRoutes } from './notices';
import { lookAlikeRoutes } from './lookAlikes';
import { lookUpRoutes } from './lookups';
import { mailboxRoutes } from './mailboxes';
import { outboxRoutes } from './outbox';
import { peopleRoutes } from './people';
import { pipelineRoutes } from './pipelines';
import { presenceRoutes } from './presence';
import { productRoutes } from './products';
import { placeRoutes } from './places';
import { projectRoutes } from './projects';
import { qualifyingRoutes } from './qualifying';
import { bulkRoutes } from './bulk';
import { exportRoutes } from './exports';
import { queryRoutes } from './queries';
import { quoteRoutes } from './quotes';
import { relationRoutes } from './relations';
import { secondStepRoutes } from './secondStep';
import { sessionRoutes } from './session';
import { settingsRoutes } from './settings';
import { roleRoutes } from './roles';
import { roundRoutes } from './round';
import { privacyRoutes } from './privacy';
import { tagRoutes } from './tags';
import { accuracyRoutes } from './accuracy';
import { termRoutes } from './terms';
import { taskRoutes } from './tasks';
import { triageRoutes } from './triage';
import { visibilityRoutes } from './visibility';

/** Every route of the program. The server mounts these, the web client is typed from them, OpenAPI is made of them. */
export const allRoutes = {
  ...sessionRoutes,
  ...roleRoutes,
  ...secondStepRoutes,
  ...captureRoutes,
  ...peopleRoutes,
  ...cloningRoutes,
  ...companyRoutes,
  ...leadRoutes,
  ...leavingRoutes,
  ...dealRoutes,
  ...placeRoutes,
  ...projectRoutes,
  ...caseRoutes,
  ...roundRoutes,
  ...tagRoutes,
  ...accuracyRoutes,
  ...termRoutes,
  ...taskRoutes,
  ...calendarRoutes,
  ...caldavRoutes,
  ...meetingRoutes,
  ...ledgerRoutes,
  ...consentRoutes,
  ...letterRoutes,
  ...mailOutRoutes,
  ...noticeRoutes,
  ...settingsRoutes,
  ...fieldRoutes,
  ...fileRoutes,
  ...callRoutes,
  ...formRoutes,
  ...historyRoutes,
  ...importRoutes,
  ...mailboxRoutes,
  ...lookAlikeRoutes,
  ...lookUpRoutes,
  ...qualifyingRoutes,
  ...triageRoutes,
  ...pipelineRoutes,
  ...presenceRoutes,
  ...privacyRoutes,
  ...bulkRoutes,
  ...exportRoutes,
  ...queryRoutes,
  ...productRoutes,
  ...quoteRoutes,
  ...forecastRoutes,
  ...relationRoutes,
  ...outboxRoutes,
  ...eventRoutes,
  ...visibilityRoutes,
};

export type Routes = typeof allRoutes;
export type RouteName = keyof Routes;
type Part<Spec, Key extends keyof RouteSpec> =
  Spec extends Record<Key, infer Schema extends z.ZodType> ? Schema : undefined;
export type In<Name extends RouteName, Key extends 'params' | 'query' | 'body'> =
  Part<Routes[Name], Key> extends z.ZodType ? z.input<Part<Routes[Name], Key>> : undefined;
export type Parsed<Name extends RouteName, Key extends 'params' | 'query' | 'body'> =
  Part<Routes[Name], Key> extends z.ZodType ? z.output<Part<Routes[Name], Key>> : undefined;
export type Reply<Name extends RouteName> = z.input<Routes[Name]['reply']>;
