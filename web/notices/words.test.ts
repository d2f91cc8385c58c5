import type { Notice } from '@emporikon/contract/notices';
import { noticeWords } from './words';

const notice = (over: Partial<Notice>): Notice => ({
  id: '00000000-0000-4000-8000-000000000001',
  kind: 'mention',
  title: 'Call back',
  detail: '',
  actor: 'Mara Quill',
  about: null,
  at: '2026-11-27T10:00:00Z',
  isRead: false,
  ...over,
});

it.each([
  [{}, 'Mara Quill mentioned you: Call back'],
  [{ kind: 'given', detail: 'Fri 27 Nov' }, 'Mara Quill gave you a task: Call back, due Fri 27 Nov'],
  [{ kind: 'given', actor: null }, 'Emporikon gave you a task: Call back'],
  [{ kind: 'done' }, 'Mara Quill finished: Call back'],
  [{ kind: 'moved', detail: 'Mon 30 Nov' }, 'Mara Quill moved Call back to Mon 30 Nov'],
  [{ kind: 'passed on', detail: 'Ines Tolland' }, 'Mara Quill passed Call back on to Ines Tolland'],
  [
    { kind: 'owner', title: 'Eight bikes', about: { kind: 'deal', id: '', name: 'Eight bikes' } },
    'Mara Quill made you the owner of the deal Eight bikes',
  ],
] as [Partial<Notice>, string][])('%o is said as %s', (over, words) => {
  expect(noticeWords(notice(over))).toBe(words);
});
