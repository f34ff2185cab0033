import type { Desk } from '../desk/index.ts';
import { useStore } from '../state/index.ts';
import { copyHex } from './copying.ts';
import { recentColours } from './recent.ts';

/** The colours that were picked last; a press copies one. Nothing where none was picked yet. */
export function RecentColours({ desk, className = '' }: { desk: Desk; className?: string }) {
  const all = useStore(recentColours.store, (state) => state.all);
  if (all.length === 0) return null;
  return (
    <fieldset className={`flex flex-wrap gap-1 ${className}`}>
      <legend className="sr-only">Colours picked last</legend>
      {all.map((hex) => (
        <button
          key={hex}
          type="button"
          aria-label={`Copy ${hex}`}
          title={hex}
          className="size-6 border border-line"
          style={{ backgroundColor: hex }}
          onClick={() => void copyHex(desk, hex)}
        />
      ))}
    </fieldset>
  );
}
