import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';

/** Where a dial points: azimuth −180 … 180, elevation −90 … 90. */
export interface Direction {
  readonly azimuthDeg: number;
  readonly elevationDeg: number;
}

const SIDE = 132;
const RADIUS = 44;
/** Rim of the ground, as a share of the radius: within it from above, beyond it from below. */
const GROUND = 0.72;
/** What lies on the outer rim. */
const LOWEST_DEG = -40;
const STEP_DEG = 5;

/** Point of a direction on the dial, −1 … 1, y down; azimuth 0 is at the bottom, where one stands before a thing. */
function pointOf({ azimuthDeg, elevationDeg }: Direction): { x: number; y: number } {
  const r =
    elevationDeg >= 0
      ? GROUND * (1 - elevationDeg / 90)
      : GROUND + (1 - GROUND) * Math.min(1, elevationDeg / LOWEST_DEG);
  const turn = (azimuthDeg * Math.PI) / 180;
  return { x: r * Math.sin(turn), y: r * Math.cos(turn) };
}

function directionOf(x: number, y: number): Direction {
  const r = Math.min(1, Math.hypot(x, y));
  const azimuthDeg = (Math.atan2(x, y) * 180) / Math.PI;
  const elevationDeg = r <= GROUND ? 90 * (1 - r / GROUND) : (LOWEST_DEG * (r - GROUND)) / (1 - GROUND);
  return { azimuthDeg: Math.round(azimuthDeg), elevationDeg: Math.round(elevationDeg) };
}

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-STEP_DEG, 0],
  ArrowRight: [STEP_DEG, 0],
  ArrowUp: [0, STEP_DEG],
  ArrowDown: [0, -STEP_DEG],
};

/**
 * A direction round and above a thing, set by one drag: seen from straight above, the ring is the ground, its middle
 * the zenith, what lies outside of it looks up from below.
 */
export function Dial({
  label,
  marks,
  value,
  proposal,
  onChange,
}: {
  label: string;
  /** What stands at the bottom, right, top and left. */
  marks: readonly [string, string, string, string];
  value: Direction | undefined;
  /** An estimate, shown until something is set. */
  proposal?: Direction | undefined;
  onChange: (direction: Direction | undefined) => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const [held, setHeld] = useState<Direction>();
  const shown = held ?? value;
  const at = (event: PointerEvent): Direction => {
    const box = holder.current!.getBoundingClientRect();
    const scale = SIDE / box.width / RADIUS;
    return directionOf(
      (event.clientX - box.left - box.width / 2) * scale,
      (event.clientY - box.top - box.height / 2) * scale,
    );
  };
  const onKey = (event: KeyboardEvent) => {
    const step = ARROWS[event.key];
    if (step) {
      const from = value ?? { azimuthDeg: 0, elevationDeg: 0 };
      const azimuth = from.azimuthDeg + step[0];
      onChange({
        azimuthDeg: azimuth > 180 ? azimuth - 360 : azimuth < -180 ? azimuth + 360 : azimuth,
        elevationDeg: Math.max(LOWEST_DEG, Math.min(90, from.elevationDeg + step[1])),
      });
    } else if (event.key === 'Delete' || event.key === 'Backspace') onChange(undefined);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const middle = SIDE / 2;
  const dot = (direction: Direction) => {
    const { x, y } = pointOf(direction);
    return { cx: middle + RADIUS * x, cy: middle + RADIUS * y };
  };
  const words = shown ? `${shown.azimuthDeg}° round, ${shown.elevationDeg}° up` : 'not said';
  return (
    <div className="grid justify-items-center">
      <div
        ref={holder}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuenow={shown?.azimuthDeg ?? 0}
        aria-valuemin={-180}
        aria-valuemax={180}
        aria-valuetext={words}
        className="size-[132px] cursor-crosshair touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld(at(event));
        }}
        onPointerMove={(event) => held && setHeld(at(event))}
        onPointerUp={(event) => {
          if (!held) return;
          setHeld(undefined);
          onChange(at(event));
        }}
        onPointerCancel={() => setHeld(undefined)}
        onKeyDown={onKey}
      >
        <svg viewBox={`0 0 ${SIDE} ${SIDE}`} aria-hidden className="size-full">
          <circle cx={middle} cy={middle} r={RADIUS} fill="none" stroke="var(--line)" />
          <circle cx={middle} cy={middle} r={RADIUS * GROUND} fill="var(--paper)" stroke="var(--muted)" />
          <circle cx={middle} cy={middle} r={(RADIUS * GROUND) / 2} fill="none" stroke="var(--line)" />
          <path
            d={`M${middle} ${middle - RADIUS}V${middle + RADIUS}M${middle - RADIUS} ${middle}H${middle + RADIUS}`}
            stroke="var(--line)"
          />
          {proposal && !shown && (
            <circle {...dot(proposal)} r="5" fill="none" stroke="var(--color-ochre)" strokeDasharray="2 2" />
          )}
          {shown && (
            <>
              <line x1={middle} y1={middle} x2={dot(shown).cx} y2={dot(shown).cy} stroke="var(--ink)" />
              <rect
                x={dot(shown).cx - 4}
                y={dot(shown).cy - 4}
                width="8"
                height="8"
                fill="var(--verdigris)"
                stroke="var(--raised)"
              />
            </>
          )}
          <g fontSize="12" fill="var(--muted)" textAnchor="middle" fontFamily="var(--font-sans)">
            <text x={middle} y={SIDE - 6}>
              {marks[0]}
            </text>
            <text x={SIDE - 3} y={middle + 22} textAnchor="end">
              {marks[1]}
            </text>
            <text x={middle} y={15}>
              {marks[2]}
            </text>
            <text x={3} y={middle + 22} textAnchor="start">
              {marks[3]}
            </text>
          </g>
        </svg>
      </div>
      <p className="figures text-muted">
        {shown
          ? `${shown.azimuthDeg}° · ${shown.elevationDeg}°`
          : proposal
            ? `about ${Math.round(proposal.azimuthDeg)}°`
            : '–'}
      </p>
    </div>
  );
}
