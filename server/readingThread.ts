import { tasks, type Tasks } from './reading/tasks';
import { ProblemError } from './http/problems';
import type { Answer, Question } from './reading/readers';

/** The thread in which files are read. What a person should be told crosses over as data. */
export default async function answer({ name, input }: Question<keyof Tasks>): Promise<Answer> {
  try {
    return { result: await (tasks[name] as (given: unknown) => Promise<unknown>)(input) };
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem };
    throw error;
  }
}
