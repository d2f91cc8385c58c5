import { useHouse } from '../testing/harness';

const { pell } = useHouse();

it.each(['5 March 1980', '1980-02-30', 'soon', '0000-00-00', '1980-03-05T12:00:00Z'])(
  'a page that says “%s” of a birthday is filed with a day or none',
  async (birthDate) => {
    const data = {
      '@context': 'https://schema.org',
      '@type': 'Person',
      name: `Born ${birthDate.replace(/\W/g, '')}`,
      email: `born${birthDate.replace(/\W/g, '').toLowerCase()}@sol.example`,
      birthDate,
    };
    const { body } = await pell.call('POST /api/captures', {
      raw: `<!doctype html><title>Profile</title><script type="application/ld+json">${JSON.stringify(data)}</script><p>${data.name}`,
      type: 'text/html',
      query: { url: `https://sol.example/people/${encodeURIComponent(birthDate)}` },
    });
    const filed = await pell.call('POST /api/captures/:id/filing', {
      params: { id: body.id },
      body: { person: 'new' },
    });
    expect([birthDate, filed.status]).toEqual([birthDate, 201]);
    const { body: person } = await pell.call('GET /api/people/:id', {
      params: { id: filed.body.person.id },
    });
    expect(person.birthday ?? '1980-03-05').toBe('1980-03-05');
  },
);
