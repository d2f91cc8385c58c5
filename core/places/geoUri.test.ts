import { FEATURES, writeFeature } from '../formats/geojson';
import { geoUri } from './geoUri';

// RFC 5870 §6.1: "geo:13.4125,103.8667", latitude first.
it('an address opens in a map by where it is and by its words', () => {
  expect(geoUri([103.8667, 13.4125], 'Siem Reap')).toBe('geo:13.4125,103.8667?q=Siem%20Reap');
  expect(geoUri(null, ' 12 Quay & Co\nBristol ')).toBe('geo:0,0?q=12%20Quay%20%26%20Co%20Bristol');
});

// RFC 7946: §1.5 for the shape of the whole, §3.1.1 for the order, §3.2 for a feature without a location.
it('records are features, longitude first', () => {
  const text = `${FEATURES.head}${[
    writeFeature('1', '0.5,102', { name: 'A "B"' }),
    writeFeature('2', null, { name: null }),
    writeFeature('3', 'nonsense', {}),
  ].join(',')}${FEATURES.tail}`;
  expect(JSON.parse(text)).toEqual({
    type: 'FeatureCollection',
    features: [
      {
        type: 'Feature',
        id: '1',
        geometry: { type: 'Point', coordinates: [102, 0.5] },
        properties: { name: 'A "B"' },
      },
      { type: 'Feature', id: '2', geometry: null, properties: { name: null } },
      { type: 'Feature', id: '3', geometry: null, properties: {} },
    ],
  });
});
