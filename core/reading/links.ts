/** Whether an address leads to somebody's own page on a site of many people, told by the shape of its path. */
export const isProfileUrl = (url: string): boolean =>
  /\/(?:in|people|persons?|profiles?|members?|u|users?|pro)\/[^/?#\s]/i.test(url);

/** A link without its scheme and `www.`, in which two writings of one page are equal. */
export const bareUrl = (url: string): string => url.replace(/^https?:\/\/(?:www\.)?/i, '');

/**
 * Whether an address leads to one page of a site, and not to the site: somebody's account, a meeting to join, a place on a map, a
 * calendar to book. The path of a language (`/en`, `/pt-br/`) leads to the site.
 */
export const isPageOfASite = (url: string): boolean =>
  /[^/]\/(?![a-z]{2}(?:-[a-z]{2})?\/?(?:$|[?#]))[^/]/i.test(bareUrl(url));
