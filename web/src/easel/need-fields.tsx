import { LENGTH_UNITS, type PrintNeed } from '@miradero/core/easel';
import { LengthField } from './length-field.tsx';

/** The smallest print that a sheet must be good for. */
export function NeedFields({ need, onChange }: { need: PrintNeed; onChange: (need: PrintNeed) => void }) {
  const setNeed = (next: Partial<PrintNeed>) => onChange({ ...need, ...next });
  return (
    <fieldset className="mt-4 border-line border-t pt-2">
      <legend className="sr-only">The smallest print it must be good for</legend>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-2 text-[13px]">
        <span className="text-muted">good for a print of</span>
        <LengthField label="Width of the print" value={need.width} onChange={(width) => setNeed({ width })} />
        <span aria-hidden>×</span>
        <LengthField
          label="Height of the print"
          value={need.height}
          onChange={(height) => setNeed({ height })}
        />
        <select
          aria-label="Unit of the print"
          className="border border-line bg-paper px-2 py-1"
          value={need.unit}
          onChange={({ target }) => setNeed({ unit: target.value as PrintNeed['unit'] })}
        >
          {LENGTH_UNITS.filter((unit) => unit !== 'px').map((unit) => (
            <option key={unit}>{unit}</option>
          ))}
        </select>
        <span className="text-muted">at</span>
        <LengthField label="Resolution of the print" value={need.ppi} onChange={(ppi) => setNeed({ ppi })} />
        <span className="text-muted">ppi</span>
      </div>
    </fieldset>
  );
}
