import { signal } from '@angular/core';

const known = typeof Notification !== 'undefined';
const permission = signal<NotificationPermission>(known ? Notification.permission : 'denied');

/** True while the browser may still be asked whether notifications may be shown. */
export function mayAskToNotify(): boolean {
  return permission() === 'default';
}

export async function askToNotify(): Promise<void> {
  permission.set(await Notification.requestPermission());
}

/** Shows a system notification where that is allowed and the page is not in view. */
export function notify(words: string): void {
  if (permission() === 'granted' && document.hidden) new Notification('Folvex', { body: words, tag: 'folvex-run' });
}
