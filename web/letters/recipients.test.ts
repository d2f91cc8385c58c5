import { addressIn } from './recipients';

it.each([
  ['ana@padaria.example', 'ana@padaria.example', ''],
  [' Ana Leça <Ana@Padaria.example> ', 'ana@padaria.example', 'Ana Leça'],
  ['"Leça, Ana" <ana@padaria.example>', 'ana@padaria.example', 'Leça, Ana'],
])('reads %s as an address', (typed, address, name) => {
  expect(addressIn(typed)).toEqual({ address, name, personId: null });
});

it.each([
  '',
  'Ana',
  'ana@',
  '@padaria.example',
  'ana@padaria',
  'a b@c.example',
  'ana@x.example evil@y.example',
])('takes “%s” for none', (typed) => {
  expect(addressIn(typed)).toBeNull();
});
