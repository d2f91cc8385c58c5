import { isRight, RIGHTS_OF, withoutRight, type Right } from '@emporikon/core/rights/rights';
import { User } from '../db/models/users';
import type { Client, House } from './harness';

export const ALL: readonly Right[] = [...RIGHTS_OF.rep];
/** All that a rep may do but some rights, or areas. */
export const without = (...gone: string[]): Right[] =>
  gone.reduce<Right[]>(
    (left, one) => withoutRight(left, isRight(one) ? one : (`${one}.see` as Right)),
    [...ALL],
  );

/** @returns the account's id */
export async function addColleague(local: string, role: User['role']): Promise<string> {
  const like = await User.findOne({ where: { email: 'pell@wharfside.example' }, rejectOnEmpty: true });
  const id = crypto.randomUUID();
  const name = `${local[0]?.toUpperCase()}${local.slice(1)} Ferrow`;
  await User.create({ ...like.get({ plain: true }), id, name, email: `${local}@wharfside.example`, role });
  return id;
}

interface Holder {
  client: Client;
  userId: string;
  roleId: string;
}
let serial = 0;

/** A colleague with a role of the organisation's own, which an admin makes for them. */
export async function withRole(
  house: House,
  admin: Client,
  rights: readonly Right[],
  basedOn: 'rep' | 'manager' = 'rep',
): Promise<Holder> {
  const local = `holder${++serial}`;
  const userId = await addColleague(local, 'rep');
  const made = await admin.call('POST /api/roles', {
    body: { name: `Role ${serial}`, basedOn, rights: [...rights] },
  });
  const user = await User.findByPk(userId, { rejectOnEmpty: true });
  const given = await admin.call('PATCH /api/admin/users/:id', {
    params: { id: userId },
    body: { version: user.version ?? 1, roleId: made.body.id },
  });
  if (given.body.roleId !== made.body.id) throw new Error(JSON.stringify(given.body));
  return { client: await house.as(`${local}@wharfside.example`), userId, roleId: made.body.id };
}
