import { WEEKDAY, weekdayOf } from './dateWords';
import { afterUnits, all, NEXT, NUMBER, UNIT, type Rule } from './dayPatterns';
import { monday, onWeekday } from './onDay';

const ALWAYS = (): boolean => true;
const FINNISH: Readonly<Record<string, number>> = { kahden: 2, kolmen: 3, neljan: 4, viiden: 5 };
/** Days told by how many weeks or months they are away, before the rules for the next such day can take their words. */
export const FAR_DAYS: readonly Rule[] = [
  {
    pattern:
      /\b(?:the\s)?week\safter\snext\b|\bubernachste[nr]?\swoche\b|\bpara\sa\s(?<soon>semana)\b(?!\sque)/g,
    day: ({ soon }, today) => monday(today, soon ? 1 : 2),
    idiom: ALWAYS,
    needs: 'near',
  },
  {
    pattern: all(`\\bubernachste[nrsm]?\\s(?<wd>${WEEKDAY})`),
    day: ({ wd = '' }, today) => monday(today, 2).plus({ days: weekdayOf(wd) - 1 }),
    idiom: ALWAYS,
    needs: 'weekday',
  },
  {
    pattern: all(`(?<wd>${WEEKDAY})\\s(?:der\\s)?kommende[rn]\\swoche\\b`),
    day: ({ wd = '' }, today) => monday(today, 1).plus({ days: weekdayOf(wd) - 1 }),
    idiom: ALWAYS,
    needs: 'weekday',
  },
  {
    pattern:
      /\b(?:mid(?:dle\sof)?[-\s]next\sweek|(?:mitte|midden|mitten)\s(?:der\s)?(?:nachste[rn]|kommende[rn]|volgende)\s(?:woche|week)|(?:milieu\sde\sla|mediados\sde\sla|meio\sda|meta)\s(?:semaine\sprochaine|proxima\ssemana|semana\sque\svi?em?|prossima\ssettimana))\b/g,
    day: (_, today) => monday(today, 1).plus({ days: 2 }),
    idiom: ALWAYS,
    needs: 'near',
  },
  {
    pattern:
      /\b(?:a\s)?fortnight\s(?:today|from\stoday)\b|\bsous\s(?<eight>huitaine)\b|\bsous\squinzaine\b|\bin\sa\scouple\sof\sweeks\b/g,
    day: ({ eight }, today) => today.plus({ weeks: eight ? 1 : 2 }),
    idiom: ALWAYS,
    needs: 'near',
  },
  {
    pattern: all(`(?<wd>${WEEKDAY})\\sfortnight\\b`),
    day: ({ wd = '' }, today) => onWeekday(today, weekdayOf(wd), 2),
    idiom: ALWAYS,
    needs: 'weekday',
  },
  {
    pattern: all(`\\b(?<n>${NUMBER})\\s(?<unit>${UNIT})\\s(?:from\\snow|hence|out)\\b`),
    day: ({ n = '', unit = '' }, today) => afterUnits(today, n, unit),
    needs: 'near',
  },
  {
    pattern: all(
      `\\b(?<n>\\d{1,2}|${Object.keys(FINNISH).join('|')})\\s(?<unit>viikon|paivan|kuukauden)\\s(?:paasta|kuluttua)\\b`,
    ),
    day: ({ n = '', unit }, today) => {
      const count = FINNISH[n] ?? Number(n);
      return today.plus(
        unit === 'viikon' ? { weeks: count } : unit === 'paivan' ? { days: count } : { months: count },
      );
    },
    needs: 'near',
  },
  {
    pattern: all(
      `\\b(?:${NEXT}|w\\sprzysz[l\\u0142]ym|pristi|ensi)\\s(?:tygodniu|tydzien|tyden|viikolla)\\b`,
    ),
    day: (_, today) => monday(today, 1),
    idiom: ALWAYS,
    needs: 'near',
  },
  {
    pattern:
      /\bmonatsende\b|\bfi[mn]\sdo\smes\b|\bfin\s(?:du|de)\smois\b|\b(?:fin|finales)\sde\s(?:este\s)?mes\b|\bkonca\smiesiaca\b|\bkonce\smesice\b|\b(?:slutten|slutet|slutningen)\sav?f?\s(?:maneden|manaden)\b/g,
    day: (_, today) => today.endOf('month').startOf('day'),
    idiom: ALWAYS,
    needs: 'near',
  },
];
