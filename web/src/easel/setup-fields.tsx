import {
  faultOfNeed,
  faultOfSheet,
  inUnit,
  LENGTH_UNITS,
  type LengthUnit,
  type PrintNeed,
  pixelsOfSheet,
  pixelsWords,
  practiceSheet,
  resolutionWords,
  SHEET_SIZES_MM,
  type SheetSetup,
  type SheetSizeName,
  setupWords,
  verdictWords,
} from '@miradero/core/easel';
import { Choices } from '../shell/index.ts';
import { LengthField } from './length-field.tsx';
import { NeedFields } from './need-fields.tsx';

const UNITS = Object.fromEntries(LENGTH_UNITS.map((unit) => [unit, unit])) as Record<LengthUnit, string>;
const SIZE_NAMES = Object.keys(SHEET_SIZES_MM) as SheetSizeName[];
const NEAR = 1e-3;

/** What a sheet is set up with, and the print it must be good for. */
export interface SheetPlan {
  readonly setup: SheetSetup;
  readonly need: PrintNeed;
}

/** The paper of a setup by its name, whichever way it lies; '' where it has none. */
function nameOf(setup: SheetSetup): SheetSizeName | '' {
  const { width, height } = inUnit(setup, 'mm');
  const [shorter, longer] = [Math.min(width, height), Math.max(width, height)];
  return (
    SIZE_NAMES.find((name) => {
      const size = SHEET_SIZES_MM[name];
      return (
        Math.abs(size.width - shorter) < NEAR * shorter && Math.abs(size.height - longer) < NEAR * longer
      );
    }) ?? ''
  );
}

function named(setup: SheetSetup, name: SheetSizeName): SheetSetup {
  const { width, height } = SHEET_SIZES_MM[name];
  const isLying = setup.width > setup.height;
  const unit = setup.unit === 'px' ? 'mm' : setup.unit;
  const bleed = inUnit(setup, unit).bleed;
  const paper = inUnit(
    { ...setup, unit: 'mm', width: isLying ? height : width, height: isLying ? width : height, bleed: 0 },
    unit,
  );
  return { ...paper, bleed };
}

/** How it would lie, small: its trimmed edge within its bleed. */
function Shape({ setup }: { setup: SheetSetup }) {
  const { trimmed, whole, bleed } = pixelsOfSheet(setup);
  const scale = 132 / Math.max(whole.width, whole.height);
  return (
    <svg
      aria-hidden
      width={whole.width * scale + 2}
      height={whole.height * scale + 2}
      className="shrink-0 overflow-visible"
    >
      <rect
        x={1}
        y={1}
        width={whole.width * scale}
        height={whole.height * scale}
        className="fill-raised stroke-line"
      />
      <rect
        x={1 + bleed * scale}
        y={1 + bleed * scale}
        width={trimmed.width * scale}
        height={trimmed.height * scale}
        className="fill-none stroke-ink"
      />
    </svg>
  );
}

/** What follows from how a sheet is set up: its pixels, and whether they are enough. */
export function PlanFigures({ setup, need }: SheetPlan) {
  const fault = faultOfSheet(setup) ?? faultOfNeed(need);
  if (fault)
    return (
      <p role="alert" className="text-vermilion">
        {fault}
      </p>
    );
  const { trimmed, whole, bleed } = pixelsOfSheet(setup);
  const verdict = verdictWords(setup, need);
  const isEnough = verdict.startsWith('enough');
  const more = resolutionWords(setup);
  return (
    <div role="status" className="min-w-0 text-[14px] leading-snug">
      <p className="figures text-[15px]">{pixelsWords(trimmed)}</p>
      {bleed > 0 && (
        <p className="text-[13px] text-muted">
          with its bleed <span className="figures">{pixelsWords(whole)}</span>
        </p>
      )}
      <p className={isEnough ? '' : 'text-vermilion'}>{verdict}</p>
      {more && <p className="text-[13px] text-vermilion">{more}</p>}
      <p className="mt-1 text-[13px] text-muted">
        to practise: <span className="figures">{setupWords(practiceSheet(setup))}</span>
      </p>
    </div>
  );
}

/** The fields of a sheet: every figure counts while it is typed. */
export function SetupFields({ plan, onChange }: { plan: SheetPlan; onChange: (plan: SheetPlan) => void }) {
  const { setup, need } = plan;
  const set = (next: Partial<SheetSetup>) => onChange({ ...plan, setup: { ...setup, ...next } });
  return (
    <>
      <div className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <label className="flex items-baseline gap-2">
          <span className="text-[13px] text-muted">paper</span>
          <select
            className="border border-line bg-paper px-2 py-1"
            value={nameOf(setup)}
            onChange={({ target }) =>
              target.value && onChange({ ...plan, setup: named(setup, target.value as SheetSizeName) })
            }
          >
            <option value="">of its own size</option>
            {SIZE_NAMES.map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          className="text-[13px] underline underline-offset-3"
          onClick={() => set({ width: setup.height, height: setup.width })}
        >
          {setup.width > setup.height ? 'stand it up' : 'lay it on its side'}
        </button>
      </div>
      <div className="mt-3 flex flex-wrap items-baseline gap-x-3 gap-y-2">
        <LengthField label="Width" value={setup.width} onChange={(width) => set({ width })} />
        <span aria-hidden>×</span>
        <LengthField label="Height" value={setup.height} onChange={(height) => set({ height })} />
        <Choices
          label="Unit of its sides"
          words={UNITS}
          value={setup.unit}
          onChange={(unit) => onChange({ ...plan, setup: inUnit(setup, unit) })}
        />
      </div>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-3 gap-y-2 text-[13px]">
        <span className="flex items-baseline gap-x-3">
          <LengthField label="Resolution" value={setup.ppi} onChange={(ppi) => set({ ppi })} />
          <span className="text-muted">pixels an inch</span>
        </span>
        <span className="flex items-baseline gap-x-3">
          <LengthField label="Bleed" value={setup.bleed} onChange={(bleed) => set({ bleed })} />
          <span className="text-muted">{setup.unit} of bleed beyond each edge</span>
        </span>
      </div>
      <NeedFields need={need} onChange={(next) => onChange({ ...plan, need: next })} />
      <div className="mt-4 flex flex-wrap items-center gap-5 border-line border-t pt-3">
        {!faultOfSheet(setup) && <Shape setup={setup} />}
        <div className="min-w-0 flex-1 basis-56">
          <PlanFigures {...plan} />
        </div>
      </div>
    </>
  );
}
