import {
  mdiCalendarOutline,
  mdiCardAccountDetailsOutline,
  mdiCheck,
  mdiEmailOutline,
  mdiFileDocumentOutline,
  mdiFormSelect,
  mdiMapMarkerOutline,
  mdiNoteTextOutline,
  mdiPaperclip,
  mdiPhoneOutline,
  mdiSwapHorizontal,
  mdiTableRow,
  mdiWeb,
} from '@mdi/js';

/** What a thing that came in, or an entry of the ledger, is: its picture, and the word that always goes with it. */
export const CHANNELS = {
  email: { icon: mdiEmailOutline, word: 'Email' },
  text: { icon: mdiNoteTextOutline, word: 'Text' },
  page: { icon: mdiWeb, word: 'Web page' },
  call: { icon: mdiPhoneOutline, word: 'Call' },
  form: { icon: mdiFormSelect, word: 'Form' },
  card: { icon: mdiCardAccountDetailsOutline, word: 'Contact card' },
  row: { icon: mdiTableRow, word: 'Row of a table' },
  mail: { icon: mdiEmailOutline, word: 'Email' },
  meeting: { icon: mdiCalendarOutline, word: 'Meeting' },
  note: { icon: mdiNoteTextOutline, word: 'Note' },
  visit: { icon: mdiMapMarkerOutline, word: 'Visit' },
  file: { icon: mdiPaperclip, word: 'File' },
  task: { icon: mdiCheck, word: 'Task' },
  change: { icon: mdiSwapHorizontal, word: 'Change' },
  quote: { icon: mdiFileDocumentOutline, word: 'Quote' },
} as const;

export type Channel = keyof typeof CHANNELS;
