import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { mountPublicForms } from './public';
import { formHandlers } from './routes';
import { askConsentJob, consentEffect } from './askConsent';

export const forms: Room = {
  name: 'forms',
  routes: [formHandlers],
  pages: mountPublicForms,
  jobs: [askConsentJob],
  effects: [consentEffect],
  tables: [
    ...plain('setting', 'forms'),
    { table: 'form_submissions', role: 'work', refers: refersTo('person'), erase: 'delete', export: true },
  ],
};
