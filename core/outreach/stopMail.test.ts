import { asksToStop } from './stopMail';

describe('a request for no more mail', () => {
  it.each([
    'Please unsubscribe me.',
    'Hi,\n\nCould you take me off your mailing list?\nThanks',
    'remove my email address from all lists please',
    'Stop emailing me.',
    'I don’t want to receive any more newsletters.',
    'STOP',
    'Unsubscribe!',
    'I withdraw my consent.',
    'Bitte nehmen Sie mich aus dem Verteiler.',
    'Bitte keine weiteren E-Mails mehr.',
    'Hiermit widerrufe ich meine Einwilligung. Ich widerrufe meine Einwilligung.',
    'Abmelden',
    'Merci de me désinscrire.',
    'Je ne souhaite plus recevoir vos messages.',
    'Denme de baja, por favor.',
    'Baja',
    'Removam-me da vossa lista.',
    'Não quero receber mais emails.',
    'Non desidero più ricevere le vostre mail.',
    'Schrijf mij uit aub',
    'Graag geen mail meer ontvangen.',
    'Avregistrera mig',
  ])('is read: %s', (said) => {
    expect(asksToStop(said, 'Re: Spring service')).toBe(true);
  });

  it('stands in the subject alone', () => {
    expect(asksToStop('', 'unsubscribe')).toBe(true);
    expect(asksToStop('Regards, Ana', 'RE: Unsubscribe.')).toBe(true);
    expect(asksToStop('', 'How to unsubscribe a colleague from the tool')).toBe(false);
  });

  it.each([
    'Please stop sending me the old price list, the new one is fine.',
    'How do your customers unsubscribe from the service plan?',
    'Please do not unsubscribe me, I like your letters.',
    'Don’t take me off the list.',
    'We stopped writing to them last year.',
    'Can you remove the trailer from the quote?',
    'Bitte melden Sie sich bei mir.',
    'Nicht abmelden bitte, ich lese das gern.',
    'The stop on the brake is loose. Stop by on Monday?',
    'Le vélo est à retirer de la liste des commandes.',
    'No quiero darme prisa, la baja de Juan termina el lunes.',
    '',
  ])('is not read where it is about something else: %s', (said) => {
    expect(asksToStop(said, 'Re: Spring service')).toBe(false);
  });

  it('takes time in proportion to what is written', () => {
    expect(asksToStop('please unsubscribe '.repeat(20_000), 'x')).toBe(false);
  });
});
