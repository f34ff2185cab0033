import { INKS } from './settings.ts';

/** The inks of marks, one of which may be chosen. */
export function InkRow({
  chosen,
  onChoose,
}: {
  chosen: string | undefined;
  onChoose: (hex: string) => void;
}) {
  return (
    <div role="radiogroup" aria-label="Ink" className="mt-2 flex flex-wrap gap-1">
      {INKS.map(([hex, words]) => (
        // biome-ignore lint/a11y/useSemanticElements: patches in a row, of which one is chosen
        <button
          key={hex}
          type="button"
          role="radio"
          aria-checked={hex === chosen}
          aria-label={words}
          title={words}
          className={`size-[22px] border border-line pointer-coarse:size-9 ${hex === chosen ? 'outline-2 outline-verdigris outline-offset-1' : ''}`}
          style={{ background: hex }}
          onClick={() => onChoose(hex)}
        />
      ))}
    </div>
  );
}
