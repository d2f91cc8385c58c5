/** The origin of our browser companion, which follows from the public key in its manifest. */
export const CLIPPER_ORIGIN = 'chrome-extension://clcjdecpcfpaoibnoffbohkimdobopnc';
