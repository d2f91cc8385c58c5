import { readTaskReply } from './taskReply';

const quoted =
  '\n\nOn Fri, 27 Nov 2026 at 09:00, Wharfside <hello@wharfside.example> wrote:\n> Send the price list\n> Reply “done”.\n';
const read = (text: string) => readTaskReply(text + quoted, 'Re: Task: Send the price list', 'Joss Ferrow');

describe('a reply to the mail about a task', () => {
  it.each([
    'Done',
    'done.',
    'Done, thanks!',
    'All done',
    'It’s done',
    'Erledigt!',
    'Fait',
    'Hecho, gracias',
    'Hi Pell,\n\nfinished',
  ])('%j says it is done', (text) => {
    expect(read(text).isDone).toBe(true);
  });
  it.each([
    'Not done yet',
    'Done?',
    'Will be done by Friday',
    'Done by Monday, promised',
    'Is it done already?',
    'Which list do you mean, the old one?',
    'I have not finished it',
    'Nothing done',
    '',
  ])('%j does not', (text) => {
    expect(read(text).isDone).toBe(false);
  });
  it('what they say beside it is kept, what they quote is not', () => {
    expect(read('Done. The trailer was left out, they do not want it.').words).toBe(
      'Done. The trailer was left out, they do not want it.',
    );
    expect(read('Done').words).toBe('');
    expect(read('Which price?\n-- \nJoss Ferrow').words).toBe('Which price?');
  });
});
