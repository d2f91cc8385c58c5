/** How a file can be looked at without being opened by another program. */
export type Preview = 'image' | 'pdf' | 'text' | null;

export interface FileKind {
  /** Of what its bytes are, whatever its name says; `application/octet-stream` where they tell nothing. */
  mediaType: string;
  preview: Preview;
  /** Whether a computer would run it. */
  isProgram: boolean;
}

interface Signature {
  mediaType: string;
  starts: readonly number[];
  at?: number;
  preview?: Preview;
  isProgram?: boolean;
}

const ascii = (text: string): number[] => [...text].map((char) => char.charCodeAt(0));

/** The first bytes of common kinds of files (the registrations of their media types; programs: PE, ELF and Mach-O). */
const SIGNATURES: readonly Signature[] = [
  { mediaType: 'application/pdf', starts: ascii('%PDF-'), preview: 'pdf' },
  {
    mediaType: 'image/png',
    starts: [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
    preview: 'image',
  },
  { mediaType: 'image/jpeg', starts: [0xff, 0xd8, 0xff], preview: 'image' },
  { mediaType: 'image/gif', starts: ascii('GIF8'), preview: 'image' },
  { mediaType: 'image/webp', starts: ascii('WEBP'), at: 8, preview: 'image' },
  { mediaType: 'application/zip', starts: [0x50, 0x4b, 0x03, 0x04] },
  { mediaType: 'application/gzip', starts: [0x1f, 0x8b] },
  { mediaType: 'application/x-ole-storage', starts: [0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1] },
  { mediaType: 'application/vnd.microsoft.portable-executable', starts: ascii('MZ'), isProgram: true },
  { mediaType: 'application/x-elf', starts: [0x7f, ...ascii('ELF')], isProgram: true },
  { mediaType: 'application/x-mach-binary', starts: [0xcf, 0xfa, 0xed, 0xfe], isProgram: true },
  { mediaType: 'application/x-mach-binary', starts: [0xca, 0xfe, 0xba, 0xbe], isProgram: true },
  { mediaType: 'text/x-shellscript', starts: ascii('#!'), isProgram: true },
];

/** What a package of several files is, by the ending of its name. */
const PACKAGES: Readonly<Record<string, string>> = {
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  pptx: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  odt: 'application/vnd.oasis.opendocument.text',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
};
const TEXTS: Readonly<Record<string, string>> = {
  csv: 'text/csv',
  ics: 'text/calendar',
  vcf: 'text/vcard',
};

/** The ending of a file's name, lower case without its dot; empty where it has none. */
export const endingOf = (name: string): string =>
  /\.([\p{L}\p{N}_-]{1,12})$/u.exec(name.trim())?.[1]?.toLowerCase() ?? '';

const LOOKED_AT_BYTES = 65_536;
/** Control characters that no text has; tab, line feed, form feed, carriage return and escape do occur. */
const isControl = (byte: number): boolean => byte < 0x20 && ![9, 10, 12, 13, 27].includes(byte);

/** Whether bytes are text: marked as such, or without controls, and valid UTF-8 or at least mostly letters. */
function isText(bytes: Uint8Array): boolean {
  const [a, b] = bytes;
  if ((a === 0xff && b === 0xfe) || (a === 0xfe && b === 0xff)) return true;
  return bytes.length > 0 && !bytes.subarray(0, LOOKED_AT_BYTES).some(isControl);
}

/**
 * What a file is.
 * @param name its name, by whose ending packages and texts are told apart
 * @param bytes all of it, or its first 64 KiB
 */
export function fileKindOf(name: string, bytes: Uint8Array): FileKind {
  const found = SIGNATURES.find(({ starts, at = 0 }) =>
    starts.every((byte, index) => bytes[at + index] === byte),
  );
  const ending = endingOf(name);
  if (found) {
    const { mediaType, preview = null, isProgram = false } = found;
    const isPackage = mediaType === 'application/zip';
    return { mediaType: isPackage ? (PACKAGES[ending] ?? mediaType) : mediaType, preview, isProgram };
  }
  if (isText(bytes)) return { mediaType: TEXTS[ending] ?? 'text/plain', preview: 'text', isProgram: false };
  return { mediaType: 'application/octet-stream', preview: null, isProgram: false };
}
