declare module 'csv-spectrum' {
  /** Known-good CSV files, each with what it holds as JSON. */
  export default function spectrum(
    done: (error: Error | null, files: { name: string; csv: Uint8Array; json: Uint8Array }[]) => void,
  ): void;
}
