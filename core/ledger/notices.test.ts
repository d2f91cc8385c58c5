import { noticeWords } from './notices';

type Notice = Parameters<typeof noticeWords>[0];

const notice = (over: Partial<Notice>): Notice => ({
  kind: 'mention',
  title: 'Call back',
  detail: '',
  actor: 'Mara Quill',
  about: null,
  ...over,
});

it.each([
  [{}, 'Mara Quill mentioned you: Call back'],
  [{ kind: 'given', detail: 'Fri 27 Nov' }, 'Mara Quill gave you a task: Call back, due Fri 27 Nov'],
  [{ kind: 'given', actor: null }, 'Emporikon gave you a task: Call back'],
  [{ kind: 'done' }, 'Mara Quill finished: Call back'],
  [{ kind: 'moved', detail: 'Mon 30 Nov' }, 'Mara Quill moved “Call back” to Mon 30 Nov'],
  [{ kind: 'passed on', detail: 'Ines Tolland' }, 'Mara Quill passed “Call back” on to Ines Tolland'],
  [
    { kind: 'owner', title: 'Eight bikes', about: { kind: 'deal' } },
    'Mara Quill made you the owner of the deal Eight bikes',
  ],
  [{ kind: 'declined', detail: 'I am away' }, 'Mara Quill declined “Call back”: I am away'],
  [{ kind: 'answered', detail: 'Which one?' }, 'Mara Quill wrote about “Call back”: Which one?'],
  [{ kind: 'taken back' }, 'Mara Quill took back: Call back'],
  [{ kind: 'asked after', detail: 'Fri 27 Nov' }, 'Mara Quill reminds you of: Call back, due Fri 27 Nov'],
  [{ kind: 'reminder', actor: null }, 'Reminder: Call back'],
  [
    { kind: 'letter', title: 'Hello', detail: 'Ana: address no longer exists', actor: null },
    'Your letter “Hello”: Ana: address no longer exists',
  ],
  [
    { kind: 'handed over', title: '2 tasks', detail: 'Ines Tolland' },
    'Mara Quill handed over 2 tasks to Ines Tolland',
  ],
  [{ kind: 'handed over', title: '2 tasks', detail: 'back' }, 'Back with you: 2 tasks'],
] as [Partial<Notice>, string][])('%o is said as %s', (over, words) => {
  expect(noticeWords(notice(over))).toBe(words);
});
