import { QueryTypes } from 'sequelize';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { Letter, LetterRecipient, MailDomain, Signature, Submission } from '../db/models/letters';
import { User } from '../db/models/users';
import { loadBytes } from '../files/parts';
import { unseal } from '../mailboxes/seal';
import { NotSent } from '../outside/notSent';
import { submit, type RawMail, type Rejected, type SubmissionAccount } from '../outside/post';
import type { Sealed } from './compose';

const domainOf = (email: string): string => email.split('@')[1]?.toLowerCase() ?? '';

export interface Outgoing {
  letter: Letter;
  author: User;
  sealed: Omit<Sealed, 'files'>;
  files: { name: string; sha256: string }[];
  recipients: string[];
  submission: SubmissionAccount | null;
  sign: RawMail['sign'];
}

const opened = (tools: Tools, sealed: string, what: string): string => {
  const { sealKey } = tools.outside;
  try {
    if (sealKey) return unseal(sealed, sealKey);
  } catch {
    // Sealed under another key: the same as none.
  }
  throw new NotSent(`${what} cannot be read with the current EMPORIKON_SECRET`, true);
};

/** Who of them withdrew from everything since; null where nobody did. What somebody says counts though a letter waits already. */
async function withdrawnSince(
  { sequelize, tx }: Pick<Context, 'sequelize' | 'tx'>,
  addresses: readonly string[],
  since: Date,
): Promise<string | null> {
  const [row] = await sequelize.query<{ name: string }>(
    `SELECT p.full_name AS name FROM contact_points c JOIN people p ON p.id = c.person_id
      WHERE c.kind = 'email' AND c.normalized = ANY ($addresses::text[])
        AND NOT EXISTS (SELECT 1 FROM purposes u WHERE u.retired_at IS NULL AND u.kind = 'mail' AND NOT EXISTS (
              SELECT 1 FROM consent_states s WHERE s.person_id = p.id AND s.purpose_id = u.id AND s.topic_id IS NULL AND s.state = 'withdrawn'))
        AND EXISTS (SELECT 1 FROM consent_states s WHERE s.person_id = p.id AND s.state = 'withdrawn' AND s.at > $since)
      LIMIT 1`,
    { bind: { addresses: [...addresses], since }, type: QueryTypes.SELECT, transaction: tx },
  );
  return row?.name ?? null;
}

/** A letter that is due, with all that it goes out with; null where it is not to go out any more. */
export async function loadOutgoing(tools: Tools, letterId: string): Promise<Outgoing | null> {
  return runInTransaction(tools, null, async ({ sequelize, tx, now }) => {
    const letter = await Letter.findByPk(letterId, { transaction: tx });
    const author = letter ? await User.findByPk(letter.authorId, { transaction: tx }) : null;
    if (letter?.state !== 'waiting' || !author) return null;
    if (letter.leavesAt && letter.leavesAt > now()) throw new NotSent('it is not due yet');
    const rows = await LetterRecipient.findAll({
      where: { letterId },
      order: [['position', 'ASC']],
      transaction: tx,
    });
    const against = await withdrawnSince(
      { sequelize, tx },
      rows.map(({ address }) => address),
      letter.updatedAt,
    );
    if (against) throw new NotSent(`${against} withdrew consent to be mailed after it was scheduled`, true);
    const by = (way: LetterRecipient['way']): { name: string; address: string }[] =>
      rows.filter((row) => row.way === way).map(({ name, address }) => ({ name, address }));
    const signature = await Signature.findByPk(author.id, { transaction: tx });
    const own = await Submission.findByPk(author.id, { transaction: tx });
    const key = await MailDomain.findByPk(domainOf(author.email), { transaction: tx });
    const files = await sequelize.query<{ name: string; sha256: string }>(
      'SELECT name, sha256 FROM letter_files WHERE letter_id = $letterId ORDER BY added_at, id',
      { bind: { letterId }, type: QueryTypes.SELECT, transaction: tx },
    );
    return {
      letter,
      author,
      files,
      recipients: rows.map(({ address }) => address),
      submission: own
        ? {
            ...own.get({ plain: true }),
            password: opened(tools, own.sealed, 'The password of your mail server'),
          }
        : null,
      sign: key
        ? {
            domain: key.domain,
            selector: key.selector,
            privateKey: opened(tools, key.sealed, 'The key that mail is signed with'),
          }
        : undefined,
      sealed: {
        messageId: letter.messageId,
        from: { name: author.name, address: author.email },
        ...{ to: by('to'), cc: by('cc'), bcc: by('bcc') },
        subject: letter.subject,
        html: letter.html,
        inReplyTo: letter.inReplyTo,
        references: letter.refs,
        date: letter.leavesAt ?? now(),
        signature: {
          html: signature?.html ?? '',
          picture: signature?.picture ?? null,
          pictureType: signature?.pictureType ?? null,
        },
      },
    };
  });
}

/** The contents of the files of a letter. @throws NotSent where one is gone */
export async function loadFiles(
  tools: Tools,
  files: Outgoing['files'],
): Promise<{ name: string; content: Buffer }[]> {
  const loaded: { name: string; content: Buffer }[] = [];
  for (const { name, sha256 } of files) {
    const content = await loadBytes(tools, sha256);
    if (!content) throw new NotSent(`the file ${name} is not there any more`, true);
    loaded.push({ name, content });
  }
  return loaded;
}

/** Hands a letter to the server of its writer, or that of the organisation, which signs it. */
export async function handOver(
  tools: Tools,
  { author, recipients, submission, sign }: Outgoing,
  raw: Buffer,
): Promise<Rejected[]> {
  const mail = { from: author.email, to: recipients, raw };
  if (submission) return submit(submission, tools.outside.door, mail);
  if (!tools.outside.post) throw new NotSent('no mail server is set up', true);
  return tools.outside.post.handOver({ ...mail, sign });
}
