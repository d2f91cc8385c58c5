import { FEASTS, MONTH, MONTH_BY_A_DAY, monthOf, NOT_ON, OF_A_FEAST } from './dateWords';
import { all, END, OF, YEAR, type Rule } from './dayPatterns';
import { onDate } from './onDay';

const ALWAYS = (): boolean => true;

/** The middle and the end of months, months that something is to be done by, and feasts. */
export const MONTH_PARTS: readonly Rule[] = [
  {
    pattern: all(
      `\\b(?:the\\s)?(?<which>first|second|third|last)\\sweek\\s(?:of|in)\\s(?<month>${MONTH})${YEAR}`,
    ),
    day: ({ which = '', month = '', year }, today) => {
      const first = onDate(today.startOf('month'), 1, monthOf(month), year);
      const weeks = ['first', 'second', 'third'].indexOf(which);
      return first && (weeks < 0 ? first.endOf('month').startOf('week') : first.plus({ weeks }));
    },
    idiom: ALWAYS,
    needs: 'month',
  },
  {
    pattern: all(
      `\\b(?:mid|middle\\sof|mitte|mi|medio|mediados\\sde|meados\\sde|meta|medio|mitten\\sav)[-\\s](?<month>${MONTH_BY_A_DAY})${YEAR}`,
    ),
    day: ({ month = '', year }, today) => onDate(today, 15, monthOf(month), year),
    idiom: ALWAYS,
    needs: 'month',
  },
  {
    pattern: all(`\\b(?:by\\s(?:the\\s)?)?${END}${OF}\\s(?<month>${MONTH_BY_A_DAY})(?![a-z])${YEAR}`),
    day: ({ month = '', year }, today) =>
      onDate(today.startOf('month'), 1, monthOf(month), year)?.endOf('month').startOf('day') ?? null,
    idiom: ALWAYS,
    needs: 'month',
  },
  ...FEASTS.map(([names, day, month]): Rule => ({
    pattern: all(`(?<!\\b${NOT_ON}\\s)\\b(?:${names})\\b(?!\\s(?:${OF_A_FEAST})\\b)`),
    day: (_, today) => onDate(today, day, month),
    idiom: ALWAYS,
    needs: 'near',
  })),
  {
    pattern: all(
      `\\b(?:(?<end>${END})${OF}|(?:by|from|before|until|till|starting(?:\\sin)?|(?:start|beginning)\\sof|ab|bis|anfang|debut|ate|a\\spartir\\sde|des|desde|vanaf|begin|entro|innan|innen|fran|fra|(?:in|im|en|em|i)(?=\\s[a-z]+\\.?,?\\s(?:de\\s|del\\s)?20\\d\\d))(?:\\s(?:the|of|zum|anfang))*)\\s(?<month>${MONTH})${YEAR}`,
    ),
    day: ({ end, month = '', year }, today) => {
      const first = onDate(today.startOf('month'), 1, monthOf(month), year);
      return first && end ? first.endOf('month').startOf('day') : first;
    },
    idiom: ALWAYS,
    needs: 'month',
  },
];
