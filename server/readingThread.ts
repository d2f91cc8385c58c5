import { tasks, type Tasks } from './reading/tasks';
import { ProblemError } from './http/problems';
import type { Answer, Question } from './reading/readers';

/** Memory shared with the program is copied here, where nobody waits for it: some packages take none that is shared. */
const ownBytes = (raw: Uint8Array): Uint8Array =>
  raw.buffer instanceof SharedArrayBuffer ? new Uint8Array(raw) : raw;

/** The thread in which files are read. What a person should be told crosses over as data. */
export default async function answer(question: Question<keyof Tasks> | null): Promise<Answer> {
  // Asked for nothing, it is only to be there.
  if (!question) return { result: null };
  const { name, input } = question;
  try {
    const own = { ...input, raw: ownBytes(input.raw) };
    return { result: await (tasks[name] as (given: unknown) => Promise<unknown>)(own) };
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem };
    throw error;
  }
}
