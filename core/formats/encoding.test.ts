import { decodeText } from './encoding';

const latin = (text: string): Uint8Array => Uint8Array.from(Buffer.from(text, 'latin1'));
const TEXT = 'Jörg Müller, Café Kühn – 40 €';

/** Bytes of a text by the index of its encoding in the WHATWG Encoding standard, as the platform's own decoder has it. */
function encodeAs(text: string, label: string): Uint8Array {
  const decoder = new TextDecoder(label);
  const of = new Map(Array.from({ length: 256 }, (_, byte) => [decoder.decode(Uint8Array.of(byte)), byte]));
  return Uint8Array.from([...text].map((letter) => of.get(letter) ?? 0x3f));
}

describe('the encoding of a file', () => {
  it('is what its mark says', () => {
    const utf16 = Buffer.from(`\ufeff${TEXT}`, 'utf16le');
    expect(decodeText(Buffer.from(`\ufeff${TEXT}`))).toEqual({ text: TEXT, encoding: 'utf-8' });
    expect(decodeText(utf16)).toEqual({ text: TEXT, encoding: 'utf-16le' });
    expect(decodeText(Buffer.from(utf16).swap16())).toEqual({ text: TEXT, encoding: 'utf-16be' });
  });

  it('is UTF-8 where it is valid, and UTF-16 by its zeros where there is no mark', () => {
    expect(decodeText(Buffer.from(TEXT))).toEqual({ text: TEXT, encoding: 'utf-8' });
    const utf16 = Buffer.from('Name;Company\nInes;Sol\n', 'utf16le');
    expect(decodeText(utf16).encoding).toBe('utf-16le');
    expect(decodeText(Buffer.from(utf16).swap16()).text).toContain('Ines;Sol');
  });

  it('is what old office programs write where a few letters are all there is to tell by', () => {
    expect(decodeText(latin('Jörg;Kühn'))).toEqual({ text: 'Jörg;Kühn', encoding: 'windows-1252' });
    expect(decodeText(Uint8Array.of(0x80, 0x20, 0x93, 0x94)).text).toBe('€ “”');
  });

  it('is told by its letters where there are many of another script', () => {
    const russian =
      'Здравствуйте, меня зовут Иван Петров, мы хотели бы купить восемь велосипедов для доставки хлеба. ';
    const greek = 'Καλημέρα σας, θα θέλαμε να αγοράσουμε οκτώ ποδήλατα για τη διανομή ψωμιού στην πόλη. ';
    for (const [text, label] of [
      [russian, 'windows-1251'],
      [russian, 'koi8-r'],
      [greek, 'windows-1253'],
    ] as const)
      expect(decodeText(encodeAs(text.repeat(4), label)).text.slice(0, 40)).toBe(text.slice(0, 40));
  });

  it('of nothing is nothing', () => {
    expect(decodeText(new Uint8Array())).toEqual({ text: '', encoding: 'utf-8' });
  });
});
