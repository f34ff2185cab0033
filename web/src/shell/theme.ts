import { useEffect } from 'react';

/** At this value step or darker a bright frame beside dark pictures would blind. */
const LAMP_AT_VALUE = 3;

/** Sets the theme of the page: that of the system, and the lamp theme wherever the surround is dark. */
export function useTheme(surround: number | undefined): void {
  useEffect(() => {
    const system = window.matchMedia('(prefers-color-scheme: dark)');
    const apply = () => {
      const isLamp = surround !== undefined && surround <= LAMP_AT_VALUE ? true : system.matches;
      document.documentElement.dataset.theme = isLamp ? 'lamp' : 'paper';
    };
    apply();
    system.addEventListener('change', apply);
    return () => system.removeEventListener('change', apply);
  }, [surround]);
}
