import { NoticeKind, type NoticeChoice } from '@emporikon/contract/notices';
import type { Reply } from '@emporikon/contract';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { User } from '../db/models/users';
import type { Handlers } from '../http/mount';
import { DEFAULT_CHOICES } from './mail';

const DEFAULT = { mail: 'off', browser: false } as const;

async function settingsOf(context: Context): Promise<Reply<'GET /api/notices/settings'>> {
  const { id } = requireActor(context);
  const chosen = await context.sequelize.query<NoticeChoice>(
    'SELECT kind, mail, browser FROM notice_choices WHERE user_id = $id',
    { bind: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const user = await User.findByPk(id, { transaction: context.tx, rejectOnEmpty: true });
  return {
    choices: NoticeKind.options.map(
      (kind) => chosen.find((one) => one.kind === kind) ?? { kind, ...(DEFAULT_CHOICES[kind] ?? DEFAULT) },
    ),
    digestAt: user.digestAt,
    roundMail: user.roundMail,
    quiet: user.quietFrom && user.quietUntil ? { from: user.quietFrom, until: user.quietUntil } : null,
  };
}

export const noticeSettingHandlers: Handlers = {
  'GET /api/notices/settings': async ({ context }) => settingsOf(context),
  'PATCH /api/notices/settings': async ({ body, context }) => {
    const { id } = requireActor(context);
    for (const { kind, mail, browser } of body.choices ?? [])
      await context.sequelize.query(
        `INSERT INTO notice_choices (user_id, kind, mail, browser) VALUES ($id, $kind, $mail, $browser)
         ON CONFLICT (user_id, kind) DO UPDATE SET mail = excluded.mail, browser = excluded.browser`,
        { bind: { id, kind, mail, browser }, transaction: context.tx },
      );
    const user = await User.findByPk(id, { transaction: context.tx, rejectOnEmpty: true, lock: true });
    await user.update(
      {
        ...(body.digestAt ? { digestAt: body.digestAt } : {}),
        ...(body.roundMail === undefined ? {} : { roundMail: body.roundMail }),
        ...(body.quiet === undefined
          ? {}
          : { quietFrom: body.quiet?.from ?? null, quietUntil: body.quiet?.until ?? null }),
      },
      { transaction: context.tx },
    );
    return settingsOf(context);
  },
};
