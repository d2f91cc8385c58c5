import { readForm, type FormAnswer } from './read';

const answer = (label: string, value: string, over: Partial<FormAnswer> = {}): FormAnswer => ({
  name: label.toLowerCase().replace(/\W+/g, '_'),
  label,
  value,
  ...over,
});
const read = (...answers: FormAnswer[]) =>
  readForm(
    { form: 'Contact us', answers },
    { receivedAt: '2026-11-27T10:00:00+00:00', country: 'GB', currency: 'EUR' },
  );
const of = (reading: ReturnType<typeof read>, field: string): string[] =>
  reading.claims.filter((claim) => claim.field === field).map((claim) => claim.normalized ?? claim.value);

describe('a form', () => {
  it('is read by its labels, in any of the languages we read', () => {
    for (const [name, firm, mail, phone] of [
      ['Your name', 'Company', 'Email', 'Mobile number'],
      ['Kontaktperson', 'Firma', 'E-Mail-Adresse', 'Handynummer'],
      ['Nom complet', 'Entreprise', 'Courriel', 'Tel portable'],
      ['Nombre completo', 'Empresa', 'Correo electrónico', 'Teléfono móvil'],
    ] as const) {
      const reading = read(
        answer(name, 'Ines Duarte'),
        answer(firm, 'Padaria Sol'),
        answer(mail, 'ines@sol.example'),
        answer(phone, '+351 910 555 014'),
      );
      expect([name, of(reading, 'fullName'), of(reading, 'companyName'), of(reading, 'email')]).toEqual([
        name,
        ['Ines Duarte'],
        ['Padaria Sol'],
        ['ines@sol.example'],
      ]);
      expect([name, of(reading, 'phone')]).toEqual([name, ['+351910555014']]);
    }
  });

  it('says of each answer where it stands', () => {
    const reading = read(answer('Your name', ' Ines Duarte '), answer('Job title', 'Buyer'));
    for (const claim of reading.claims) {
      const { start = 0, end = 0 } = claim.span ?? {};
      expect(reading.message.text.slice(start, end)).toBe(claim.value);
      expect(claim.source).toMatch(/^“(?:Your name|Job title)”$/);
    }
  });

  it('what the form says of a field goes before its label, and null says that it stands for nothing', () => {
    const reading = read(
      answer('Company', 'Ines Duarte', { field: 'fullName' }),
      answer('Email', 'not for you', { field: null }),
    );
    expect([of(reading, 'fullName'), of(reading, 'email'), of(reading, 'companyName')]).toEqual([
      ['Ines Duarte'],
      [],
      [],
    ]);
  });

  it('given and family name make one name, unless the whole is given', () => {
    expect(of(read(answer('First name', 'Ines'), answer('Surname', 'Duarte')), 'fullName')).toEqual([
      'Ines Duarte',
    ]);
    expect(of(read(answer('Surname', 'Duarte')), 'fullName')).toEqual(['Duarte']);
    expect(
      of(
        read(answer('First name', 'I'), answer('Your name', 'Ines Duarte'), answer('Surname', 'D')),
        'fullName',
      ),
    ).toEqual(['Ines Duarte']);
  });

  it('reads what somebody wrote in their own words as it reads a letter', () => {
    const reading = read(
      answer('Your name', 'Ines Duarte'),
      answer('How can we help?', 'We need 8 cargo bikes before 15 December.\nBudget about €40,000.'),
    );
    const kinds = reading.intents.map((intent) => intent.kind);
    expect(kinds).toEqual(expect.arrayContaining(['quantity', 'date', 'money']));
    for (const intent of reading.intents)
      expect(reading.message.text.slice(intent.span.start, intent.span.end)).toBe(intent.text);
    expect(reading.message.said).toContain('8 cargo bikes');
    expect(reading.message.tone).not.toBeNull();
  });

  it('has no tone and asks nothing where nobody wrote a word of their own', () => {
    const reading = read(answer('Email', 'a@b.example'), answer('Name', ''), answer('Agreed', 'yes'));
    expect([reading.intents, reading.message.tone, reading.message.said]).toEqual([[], null, '']);
    expect(reading.message.from).toEqual({ name: '', address: 'a@b.example' });
  });

  it('with nothing in it is read without a fault', () => {
    const reading = read();
    expect([reading.claims, reading.message.from, reading.message.text, reading.message.subject]).toEqual([
      [],
      null,
      '',
      'Contact us',
    ]);
  });
});
