import type { Token } from '@emporikon/contract/session';
import { requireActor } from '../commands/context';
import { AccessToken } from '../db/models/users';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { hashToken, newToken } from './secrets';

const DAY_MS = 86_400_000;
const asToken = ({ id, name, rights, createdAt, lastUsedAt, expiresAt }: AccessToken): Token => ({
  ...{ id, name, rights },
  createdAt: createdAt.toISOString(),
  lastUsedAt: lastUsedAt?.toISOString() ?? null,
  expiresAt: expiresAt?.toISOString() ?? null,
});

export const tokenHandlers: Handlers = {
  'GET /api/tokens': async ({ context }) => {
    const tokens = await AccessToken.findAll({
      where: { userId: requireActor(context).id, revokedAt: null },
      order: ['createdAt'],
      transaction: context.tx,
    });
    return {
      items: tokens.map(asToken),
    };
  },
  'POST /api/tokens': async ({ body, context }) => {
    const token = newToken();
    const now = context.now();
    const made = await AccessToken.create(
      {
        id: context.newId(),
        userId: requireActor(context).id,
        name: body.name,
        tokenHash: hashToken(token),
        createdAt: now,
        lastUsedAt: null,
        revokedAt: null,
        rights: body.rights,
        expiresAt: body.days ? new Date(now.getTime() + body.days * DAY_MS) : null,
      },
      { transaction: context.tx },
    );
    return { ...asToken(made), token };
  },
  'DELETE /api/tokens/:id': async ({ params, context }) => {
    const token = await AccessToken.findOne({
      where: { id: params.id, userId: requireActor(context).id },
      transaction: context.tx,
    });
    if (!token) throw notFound('You have no such token.');
    await token.update({ revokedAt: context.now() }, { transaction: context.tx });
    return { revoked: true };
  },
};
