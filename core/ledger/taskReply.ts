import { ownWords } from './statements';

/** What a colleague says about a task by mail. */
interface TaskReply {
  /** It says that the task is done. */
  isDone: boolean;
  /** What they wrote themselves; empty where that is nothing but that it is done. */
  words: string;
}

/** In the languages we read; at the beginning of the reply, where nothing takes it back. Common practice. */
const DONE =
  /^(?:(?:hi|hello|hey|dear)\b[^\n]{0,40}\n+)?(?:(?:all|it['’]?s|that['’]?s|it is|that is|is|now|already)\s+)*(?:done|finished|completed|sorted|erledigt|fertig|fait|feito|hecho|gedaan|fatto|klart|färdigt|ferdig|færdig)\b(?!\s*\?)(?!\s+(?:by|on|until|tomorrow|next|soon))/iu;
const ALONE = /^[\p{L}\s,!.’']{0,40}$/u;

/** Reads what a colleague answers to the mail about a task, without what they quote and sign. */
export function readTaskReply(text: string, subject: string, name: string): TaskReply {
  const words = ownWords(text, subject, name).replace(/\n--\s*$/, '');
  const [first = ''] = words.split('\n').filter((line) => line.trim());
  const isDone = DONE.test(words) && !first.includes('?');
  const isBare = isDone && ALONE.test(words) && words.split(/\s+/).length <= 4;
  return { isDone, words: isBare ? '' : words };
}
