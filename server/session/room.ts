import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { identify } from './identify';
import { linkHandlers } from './links';
import { mountOpenId } from './openId';
import { passwordMail } from './passwordLink';
import { placeHandlers } from './places';
import { sessionHandlers } from './routes';
import { secondStepHandlers } from './secondStepRoutes';
import { tokenHandlers } from './tokens';
import { userHandlers } from './users';

export const session: Room = {
  name: 'session',
  routes: [sessionHandlers, linkHandlers, placeHandlers, secondStepHandlers, tokenHandlers, userHandlers],
  effects: [passwordMail],
  pages: mountOpenId,
  before: identify,
  tables: plain(
    'setting',
    'users',
    'access_tokens',
    'sessions',
    'sign_ins',
    'sign_in_failures',
    'sign_in_events',
    'password_links',
    'idempotency_keys',
    'second_factors',
    'recovery_codes',
    'outside_identities',
    'sign_in_rules',
  ),
};
