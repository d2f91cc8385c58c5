import fc from 'fast-check';
import { decodeCursor, encodeCursor, signCursorsWith } from './paging';

const keys = fc.array(fc.string(), { minLength: 1, maxLength: 3 });

it('a cursor gives back the keys it was made of', () =>
  fc.assert(
    fc.property(keys, (given) => expect(decodeCursor(encodeCursor(given), given.length)).toEqual(given)),
  ));

it('one with any letter changed, made by hand, of another list or of another secret is refused', () => {
  fc.assert(
    fc.property(keys, fc.nat(), (given, at) => {
      const cursor = encodeCursor(given);
      const place = at % cursor.length;
      const other = cursor[place] === 'A' ? 'B' : 'A';
      expect(() =>
        decodeCursor(cursor.slice(0, place) + other + cursor.slice(place + 1), given.length),
      ).toThrow();
    }),
  );
  expect(() => decodeCursor(Buffer.from('["a","b"]').toString('base64url'), 2)).toThrow(
    'This cursor is not valid',
  );
  expect(() => decodeCursor(encodeCursor(['a']), 2)).toThrow('This cursor is not valid');
  signCursorsWith('one');
  const cursor = encodeCursor(['a']);
  expect(decodeCursor(cursor, 1)).toEqual(['a']);
  signCursorsWith('another');
  expect(() => decodeCursor(cursor, 1)).toThrow('This cursor is not valid');
  signCursorsWith('one');
  expect(decodeCursor(cursor, 1)).toEqual(['a']);
});
