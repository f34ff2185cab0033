import { ballShapes, directionOf, type LightColours, type LightDirection } from '@miradero/core/light';
import { useRef } from 'react';
import { NumberField } from '../shell/index.ts';

/** What is seen about a ball of radius 1: the shadow that it throws, too. */
const VIEW = { x: -2.15, y: -1.25, width: 4.3, height: 2.8 } as const;
/** Beyond the rim of the ball the light comes from behind; so far out, in radii, straight from there. */
const BEHIND = 2.1;

/** Where light comes from that falls on the ball where it is pressed (radii from its middle). */
function directionAt(x: number, y: number): LightDirection {
  const out = Math.hypot(x, y);
  if (out <= 1) return directionOf([x, y, Math.sqrt(1 - out * out)]);
  const angle = (Math.min(1, (out - 1) / (BEHIND - 1)) * Math.PI) / 2;
  return directionOf([(x / out) * Math.cos(angle), (y / out) * Math.cos(angle), -Math.sin(angle)]);
}

/** The ball in its colours; dragging over it moves the light. */
export function BallPreview({
  colours,
  direction,
  onTurn,
  onRefuse,
}: {
  colours: LightColours;
  direction: LightDirection;
  onTurn: (direction: LightDirection) => void;
  onRefuse: (words: string) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const turnTo = ({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const box = svg.current!.getBoundingClientRect();
    const scale = VIEW.width / box.width;
    onTurn(directionAt(VIEW.x + (clientX - box.left) * scale, VIEW.y + (clientY - box.top) * scale));
  };
  return (
    <>
      <svg
        ref={svg}
        viewBox={`${VIEW.x} ${VIEW.y} ${VIEW.width} ${VIEW.height}`}
        className="w-full cursor-grab touch-none bg-[#797979] max-md:mx-auto max-md:w-[190px]"
        role="img"
        aria-label="The lit ball: drag over it to move the light"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          turnTo(event);
        }}
        onPointerMove={(event) => event.buttons === 1 && turnTo(event)}
      >
        <circle r={0.99} fill="none" stroke="#fafaf9" strokeWidth={0.02} strokeDasharray="0.06 0.06" />
        {ballShapes(colours, direction).map(({ d, fill }, index) => (
          <path key={`${index} ${fill}`} d={d} fill={fill} />
        ))}
      </svg>
      <p className="mt-1 flex items-baseline justify-between gap-2">
        <span className="text-muted">light from</span>
        <span className="figures flex gap-3">
          <span>
            <NumberField
              label="Where the light comes from, degrees clockwise from above"
              value={Math.round(direction.azimuthDeg) % 360}
              {...{ least: 0, most: 359 }}
              onRefuse={onRefuse}
              onChange={(azimuthDeg) => onTurn({ ...direction, azimuthDeg })}
            />
            °
          </span>
          <span>
            <NumberField
              label="How far the light comes from the front, degrees"
              value={Math.round(direction.elevationDeg)}
              {...{ least: -90, most: 90 }}
              onRefuse={onRefuse}
              onChange={(elevationDeg) => onTurn({ ...direction, elevationDeg })}
            />
            ° front
          </span>
        </span>
      </p>
    </>
  );
}
