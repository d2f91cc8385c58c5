import { CAPTURE_KINDS } from '../../reading/types';
import {
  choice,
  day,
  flag,
  kind,
  many,
  NEXT_MOVE,
  number,
  one,
  options,
  several,
  OWNER,
  reckoned,
  text,
  time,
  user,
} from './build';

export const project = kind(
  { kind: 'project', one: 'project', many: 'projects', name: 'title' },
  [
    text('title', 'Title'),
    choice('stage', 'Stage'),
    choice('status', 'Status', { options: options(['open', 'done', 'stopped']) }),
    text('companyName', 'Company'),
    ...OWNER,
    day('startsOn', 'Starts'),
    day('dueOn', 'Due'),
    number('progress', 'Progress', { unit: '%' }),
    ...NEXT_MOVE,
    time('createdAt', 'Added', { words: ['created'] }),
    time('closedAt', 'Closed'),
  ],
  [
    one('company', 'Company', 'company'),
    one('deal', 'Deal', 'deal'),
    many('people', 'People', 'person'),
    many('tasks', 'Tasks', 'task'),
    many('entries', 'History', 'entry'),
  ],
);

export const caseKind = kind(
  { kind: 'case', one: 'case', many: 'cases', name: 'title' },
  [
    text('title', 'Title'),
    choice('urgency', 'Urgency', { options: options(['urgent', 'normal', 'low']) }),
    choice('cameBy', 'Came by', { options: options(['mail', 'call', 'form', 'other']) }),
    flag('solved', 'Solved'),
    text('fullName', 'Person'),
    text('companyName', 'Company'),
    ...OWNER,
    time('openedAt', 'Opened'),
    time('answerBy', 'Answer by'),
    time('solveBy', 'Solve by'),
    time('solvedAt', 'Solved at'),
    reckoned(flag('overdue', 'Overdue')),
    ...NEXT_MOVE,
  ],
  [
    one('person', 'Person', 'person'),
    one('company', 'Company', 'company'),
    one('deal', 'Deal', 'deal'),
    many('tasks', 'Tasks', 'task'),
    many('entries', 'History', 'entry'),
  ],
);

export const entry = kind(
  { kind: 'entry', one: 'history entry', many: 'history entries', name: 'headline' },
  [
    text('headline', 'Headline'),
    choice('entryKind', 'Kind', {
      options: options([
        'note',
        'mail',
        'call',
        'meeting',
        'visit',
        'form',
        'file',
        'task',
        'quote',
        'change',
      ]),
    }),
    choice('side', 'Side', { options: options(['theirs', 'ours', 'within']) }),
    time('at', 'When'),
    user('author', 'Author'),
    choice('outcome', 'Outcome', { options: options(['spoke', 'no answer', 'voicemail', 'moved']) }),
    several('letterResult', 'Letter result', {
      options: [
        ...options(['sent', 'delivered', 'delayed']),
        { value: 'full', label: 'Mailbox full' },
        { value: 'gone', label: 'Address no longer exists' },
        ...options(['refused']),
        { value: 'complaint', label: 'Reported as unwanted' },
        ...options(['opened']),
        { value: 'clicked', label: 'Followed a link' },
        ...options(['answered', 'away']),
      ],
    }),
    flag('pinned', 'Pinned'),
    text('fullName', 'Person'),
    text('companyName', 'Company'),
    time('createdAt', 'Added', { words: ['created'] }),
  ],
  [
    many('people', 'People', 'person'),
    many('companies', 'Companies', 'company'),
    many('deals', 'Deals', 'deal'),
    many('leads', 'Leads', 'lead'),
  ],
);

export const capture = kind(
  { kind: 'capture', one: 'capture', many: 'captures', name: 'subject' },
  [
    text('subject', 'Subject'),
    choice('captureKind', 'Kind', { options: options(CAPTURE_KINDS) }),
    choice('state', 'State', { options: options(['waiting', 'filed', 'set aside']) }),
    choice('tone', 'Tone', { options: options(['negative', 'neutral', 'positive']) }),
    text('cameBy', 'Came by'),
    user('capturedBy', 'Captured by'),
    time('receivedAt', 'Received'),
    time('filedAt', 'Filed'),
  ],
  [],
);
