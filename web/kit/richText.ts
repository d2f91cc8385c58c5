import { Mark, mergeAttributes, type Extensions } from '@tiptap/core';
import { Blockquote } from '@tiptap/extension-blockquote';
import { Bold } from '@tiptap/extension-bold';
import { Document } from '@tiptap/extension-document';
import { HardBreak } from '@tiptap/extension-hard-break';
import { Heading } from '@tiptap/extension-heading';
import { Italic } from '@tiptap/extension-italic';
import { BulletList, ListItem, OrderedList } from '@tiptap/extension-list';
import { Paragraph } from '@tiptap/extension-paragraph';
import { Text } from '@tiptap/extension-text';
import { UndoRedo } from '@tiptap/extensions';

const SCHEME = /^(?:https?:\/\/|mailto:|tel:)/i;

/** What is typed as a link, as an address: "wharfside.example" → `https://wharfside.example`. */
export const asHref = (typed: string): string => {
  const text = typed.trim();
  if (SCHEME.test(text)) return text;
  return /^[^\s/]+@[^\s/]+$/.test(text) ? `mailto:${text}` : `https://${text}`;
};

/** A link, by its address alone: nothing opens while one writes. */
const Link = Mark.create({
  name: 'link',
  inclusive: false,
  addAttributes: () => ({ href: { default: null } }),
  parseHTML: () => [
    {
      tag: 'a[href]',
      getAttrs: (element) => (SCHEME.test(element.getAttribute('href') ?? '') ? null : false),
    },
  ],
  renderHTML: ({ HTMLAttributes }) => ['a', mergeAttributes(HTMLAttributes), 0],
});

/** What a text may hold: paragraphs, headings, lists, quotes; bold, italic, links. */
export const EXTENSIONS: Extensions = [
  Document,
  Paragraph,
  Text,
  Bold,
  Italic,
  Heading.configure({ levels: [2, 3] }),
  Blockquote,
  BulletList,
  OrderedList,
  ListItem,
  HardBreak,
  UndoRedo,
  Link,
];
