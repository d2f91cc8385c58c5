import { show } from '../testing/browser';
import { keepTyped, restoreTyped } from './typed';

const FORM = (name = '', note = '', twin = ''): string => `
  <input aria-label="Name" value="${name}">
  <input type="password" aria-label="Secret" value="never">
  <input type="checkbox" aria-label="Agreed" value="on">
  <textarea aria-label="Note">${note}</textarea>
  <input aria-label="Name" value="${twin}">`;
const values = (): string[] =>
  [...document.querySelectorAll<HTMLInputElement>('input, textarea')].map((field) => field.value);

beforeEach(() => {
  jest.useFakeTimers();
  sessionStorage.clear();
  Object.assign(location, { pathname: '/people' });
});
afterEach(() => jest.useRealTimers());

it('what was typed stands in its fields again after a reload, each of two fields of one name its own', () => {
  show(FORM('Ines', 'met at the fair', 'Duarte'));
  keepTyped();
  expect(sessionStorage.getItem('emporikon-typed')).not.toContain('never');
  show(FORM());
  restoreTyped();
  expect(values()).toEqual(['Ines', 'never', 'on', 'met at the fair', 'Duarte']);
});

it('tells the page of each field it fills, and waits for fields that come later', () => {
  show(FORM('Ines', 'later'));
  keepTyped();
  show('<input aria-label="Name">');
  const told: string[] = [];
  document.addEventListener('input', (event) => told.push((event.target as HTMLInputElement).value));
  restoreTyped();
  expect(told).toEqual(['Ines']);
  document.body.insertAdjacentHTML('beforeend', '<textarea aria-label="Note"></textarea>');
  jest.advanceTimersByTime(200);
  expect(values()).toEqual(['Ines', 'later']);
});

it('is put into no other page, and only once', () => {
  show(FORM('Ines'));
  keepTyped();
  Object.assign(location, { pathname: '/deals' });
  show(FORM());
  restoreTyped();
  expect(values()[0]).toBe('');
  Object.assign(location, { pathname: '/people' });
  restoreTyped();
  expect(values()[0]).toBe('');
});
