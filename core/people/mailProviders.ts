import listed from './mailProviders.json';

/** What a domain says of itself: `webmail.example`, `freemail.example`. */
const NAMED_MAIL = /^(?:(?:free|web|my|home|e|in|post|hot|g|y|all|fast)?-?(?:mail|box)|mailbox|email)\./;

let known: { international: ReadonlySet<string>; domains: ReadonlySet<string> } | null = null;

/**
 * Whether a registrable domain is one of a mail provider, which says nothing about where somebody works: listed (freemail and
 * email-providers, by `npm run lexicon`), or called so.
 */
export function isMailProvider(domain: string): boolean {
  // Read when first asked, so that a page that never asks does not carry the lists.
  known ??= {
    international: new Set(listed.international.split(' ')),
    domains: new Set(listed.domains.split(' ')),
  };
  return (
    known.domains.has(domain) ||
    known.international.has(domain.split('.')[0] ?? '') ||
    NAMED_MAIL.test(domain)
  );
}
