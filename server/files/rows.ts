import type { Context } from '../commands/context';
import { FileVersion, StoredFile } from '../db/models/files';

/** Files of an entry or a task with their versions, in the order in which they can be removed. */
export async function fileRowsOf(
  { tx }: Pick<Context, 'tx'>,
  of: { entryId: string } | { taskId: string } | { id: string },
): Promise<(FileVersion | StoredFile)[]> {
  const files = await StoredFile.findAll({ where: of, transaction: tx, lock: true });
  const versions = await FileVersion.findAll({
    where: { fileId: files.map(({ id }) => id) },
    transaction: tx,
  });
  return [...versions, ...files];
}
