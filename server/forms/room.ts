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
};
