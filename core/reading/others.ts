import { alternatives } from '../words/compile';

const OTHERS = String.raw`(?:${alternatives('othersDetails')})`;
const HEADING = new RegExp(String.raw`^\W*${OTHERS}\W*$`, 'iu');
const LINE = new RegExp(String.raw`^\W*${OTHERS}\s*(?:[:：]|\s[–—-]\s)\s*(?<rest>.*)$`, 'iu');
const ANYBODYS = new RegExp(
  String.raw`^\W*(?:[\p{L}'’-]+\s){0,3}?(?:${alternatives('sitesNumber')})(?!\p{L})`,
  'iu',
);

const LONGEST_HEADING = 200;

/** Whether a heading leads to what is somebody else's: the press office, an assistant, "people also viewed". */
export const isOthersHeading = (text: string): boolean =>
  text.length <= LONGEST_HEADING && HEADING.test(text);

/** Whether a line says whose it is, and it is somebody else's: "Assistant: Pru Nash, …", or "Vertretung:" above them. */
export const isOthersLine = (text: string): boolean => LINE.test(text);

/** Whether what somebody else's line leads to stands below it, and not in it. */
export const leadsBelow = (text: string): boolean => LINE.exec(text)?.groups?.rest === '';

/** Whether the numbers and addresses of a line are for anybody: the switchboard, the help line. */
export const isAnybodys = (text: string): boolean => ANYBODYS.test(text);
