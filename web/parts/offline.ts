import { registerSW } from 'virtual:pwa-register';
import { notify } from './notify.ts';

/** Keeps the whole application in the browser, so that it opens without a network. */
export function keepOffline(): void {
  const take = registerSW({
    onNeedRefresh() {
      notify({
        text: 'A newer Rimefield is here.',
        tone: 'info',
        stays: true,
        once: true,
        act: { label: 'Load it', run: () => take() },
      });
    },
  });
}
