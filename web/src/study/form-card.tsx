import { directionWords } from '@miradero/core/colour';
import type { SmallPicture, StandingApart, Subtleties } from '@miradero/core/form';
import type { Point } from '@miradero/core/geometry';
import { useEffect, useRef } from 'react';
import type { Desk, Tool } from '../desk/index.ts';
import { ToolCard } from '../shell/index.ts';
import type { StageView } from '../stage/index.ts';
import { useStore } from '../state/index.ts';
import { useCardOnLeft } from '../tools/index.ts';
import type { Forming } from './study.ts';

const percent = (part: number): string => `${Math.round(part * 100)}\u00a0%`;
const signed = (value: number, digits: number): string =>
  `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(digits)}`;

/** Pixels as they are. */
function Painted({
  pixels,
  className,
  label,
}: {
  pixels: { readonly width: number; readonly height: number; readonly data: Uint8ClampedArray<ArrayBuffer> };
  className: string;
  label: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const image = new ImageData(pixels.data, pixels.width, pixels.height);
    canvas.current?.getContext('2d')?.putImageData(image, 0, 0);
  }, [pixels]);
  return (
    <canvas
      ref={canvas}
      {...{ width: pixels.width, height: pixels.height }}
      className={className}
      role="img"
      aria-label={label}
    />
  );
}

/** A form by its ground: small, apart, subtle. */
export function FormCard({ desk, view }: { desk: Desk; view: StageView }) {
  const isLeft = useCardOnLeft(desk, view);
  const tool = desk.tool as Tool & Forming;
  const { read, isExact, trouble } = useStore(tool.store);
  return (
    <ToolCard label="Form and ground" isLeft={isLeft} testId="form-card" isExact={isExact}>
      {trouble && <p>{trouble}</p>}
      {!read && !trouble && (
        <p className="text-muted">Draw around a form: its contour is compared with its ground.</p>
      )}
      {read && (
        <>
          {!isExact && <p className="text-[12px] text-muted">from a smaller copy, the exact one follows</p>}
          <Small small={read.small} />
          <Apart apart={read.apart} />
          <Subtle subtle={read.subtle} />
        </>
      )}
      <p className="mt-1.5 border-line border-t pt-1.5 text-right">
        <button type="button" className="underline underline-offset-3" onClick={() => desk.leaveTool()}>
          done
        </button>
      </p>
    </ToolCard>
  );
}

function Small({ small }: { small: readonly SmallPicture[] }) {
  return (
    <section aria-label="Small">
      <h2 className="font-serif text-[16px]">Small</h2>
      {small.length === 0 ? (
        <p className="text-muted">There is no ground around it to tell it from.</p>
      ) : (
        <>
          <div className="mt-1 flex items-end gap-3 bg-[#797979] p-2">
            {small.map((one) => (
              <Painted
                key={Math.max(one.width, one.height)}
                pixels={one}
                className="[image-rendering:pixelated]"
                label={`${Math.max(one.width, one.height)} pixels`}
              />
            ))}
          </div>
          <dl className="mt-1 text-[12px]">
            {small.map((one) => (
              <div key={Math.max(one.width, one.height)} className="flex justify-between">
                <dt className="text-muted">silhouette holds at {Math.max(one.width, one.height)} px</dt>
                <dd className="figures">{percent(one.holds)}</dd>
              </div>
            ))}
          </dl>
        </>
      )}
    </section>
  );
}

const MAP = { width: 236, height: 150 } as const;
/** A difference in value that is drawn in full, steps. */
const FULL = 3;

/** The contour, thick where the form stands off: light where it is lighter, dark where it is darker, dotted where it is lost. */
function Contour({ places }: { places: StandingApart['places'] }) {
  const [xs, ys] = [places.map(({ x }) => x), places.map(({ y }) => y)];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left || 1, Math.max(...ys) - top || 1];
  const scale = Math.min((MAP.width - 20) / wide, (MAP.height - 20) / high);
  const at = ({ x, y }: Point) => ({
    x: MAP.width / 2 + (x - left - wide / 2) * scale,
    y: MAP.height / 2 + (y - top - high / 2) * scale,
  });
  return (
    <svg
      viewBox={`0 0 ${MAP.width} ${MAP.height}`}
      className="mt-1 w-full bg-[#797979]"
      role="img"
      aria-label="Contour"
    >
      {places.map((place, index) => {
        const [from, to] = [at(place), at(places[(index + 1) % places.length]!)];
        if (place.isLost)
          return (
            <circle
              key={`${place.x} ${place.y}`}
              cx={from.x}
              cy={from.y}
              r={1.6}
              fill="none"
              stroke="#c44e28"
            />
          );
        return (
          <line
            key={`${place.x} ${place.y}`}
            {...{ x1: from.x, y1: from.y, x2: to.x, y2: to.y }}
            stroke={place.value >= 0 ? '#fafaf9' : '#161614'}
            strokeWidth={1 + 5 * Math.min(1, Math.abs(place.value) / FULL)}
            strokeLinecap="round"
          />
        );
      })}
    </svg>
  );
}

function Apart({ apart }: { apart: StandingApart | undefined }) {
  return (
    <section aria-label="Apart" className="mt-2 border-line border-t pt-1.5">
      <h2 className="font-serif text-[16px]">Apart</h2>
      {!apart ? (
        <p className="text-muted">Nothing opaque lies on both sides of it.</p>
      ) : (
        <>
          <Contour places={apart.places} />
          <dl className="mt-1 text-[12px]">
            {[
              ['stands off by, value steps', apart.value.toFixed(1)],
              ['lighter than its ground', percent(apart.lighter)],
              ['darker', percent(apart.darker)],
              ['lost', percent(apart.lost)],
              [
                'ground’s colour in its shadows',
                apart.groundInShadows === undefined ? 'not to be told' : percent(apart.groundInShadows),
              ],
            ].map(([term, figure]) => (
              <div key={term} className="flex justify-between gap-2">
                <dt className="text-muted">{term}</dt>
                <dd className="figures">{figure}</dd>
              </div>
            ))}
          </dl>
        </>
      )}
    </section>
  );
}

function Subtle({ subtle }: { subtle: Subtleties | undefined }) {
  return (
    <section aria-label="Subtle" className="mt-2 border-line border-t pt-1.5">
      <h2 className="font-serif text-[16px]">Subtle</h2>
      {!subtle ? (
        <p className="text-muted">There is too little of it.</p>
      ) : (
        <>
          <div className="relative mt-1 bg-[#797979]">
            <Painted
              pixels={subtle}
              className="block max-h-52 w-full object-contain"
              label="Its shifts enlarged, with lines of value"
            />
          </div>
          <p className="mt-1">{shiftWords(subtle)}</p>
          <p className="text-[12px] text-muted">
            values {subtle.gain.value.toFixed(0)} ×, colours {subtle.gain.colour.toFixed(0)} × as strong; a
            line each {subtle.lineStep} steps
          </p>
          {subtle.jumps.map(({ value, deltaE, softenedBy, x, y }) => (
            <p key={`${x} ${y}`} className="text-[12px]">
              Abrupt {sideWords({ x, y })}: {signed(value, 1)} value steps, ΔE {deltaE.toFixed(0)};{' '}
              {softenedBy === 1 ? 'one step' : `${softenedBy} steps`} between would soften it.
            </p>
          ))}
        </>
      )}
    </section>
  );
}

/** "0.4 value steps, 6° warmer" from one end to the other. */
function shiftWords({ from, to, shift, valueRange }: Subtleties): string {
  const words = directionWords(shift);
  const hue =
    shift.hueDeg === undefined || Math.abs(shift.hueDeg) < 1
      ? ''
      : `, ${Math.abs(shift.hueDeg).toFixed(0)}° of hue`;
  const figures = `${Math.abs(shift.value).toFixed(1)} value steps${hue}`;
  const range = `${valueRange.toFixed(1)} value steps in all`;
  if (words === undefined) return `Even from end to end; ${range}.`;
  return `From ${sideWords(from)} to ${sideWords(to)}: ${words} (${figures}); ${range}.`;
}

function sideWords({ x, y }: Point): string {
  const down = y < 0.4 ? 'upper' : y > 0.6 ? 'lower' : '';
  const across = x < 0.4 ? 'left' : x > 0.6 ? 'right' : '';
  return `${down} ${across}`.trim() || 'the middle';
}
