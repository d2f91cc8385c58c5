/** Notifications of the browser itself, which it shows while the page is in the background. */
const isOffered = (): boolean => typeof Notification !== 'undefined';

export const browserNoticesAllowed = (): boolean => isOffered() && Notification.permission === 'granted';

/** Asks whoever sits there, unless they answered before. @returns whether it may show them */
export async function askForBrowserNotices(): Promise<boolean> {
  if (!isOffered()) return false;
  return (await Notification.requestPermission()) === 'granted';
}
