import { hexToOklab } from '@miradero/core/colour';
import type { KeptSwatch } from '@miradero/core/items';
import { Cell, ReferenceLine, Scatter, ScatterChart, XAxis, YAxis, ZAxis } from 'recharts';

const SIDE_PX = 176;
/** Chroma at the edge, OKLab. */
const EDGE = 0.2;

/** Hue and chroma of a palette: grey in the middle, hue around it, dots sized by share. */
export function HuePlot({ swatches }: { swatches: readonly KeptSwatch[] }) {
  const dots = swatches.map(({ hex, share }) => {
    const { a, b } = hexToOklab(hex);
    const far = Math.max(1, Math.hypot(a, b) / EDGE);
    return { hex, a: a / far, b: b / far, share: Math.max(0.004, share) };
  });
  return (
    <figure className="flex flex-col items-center" aria-label="Hue and chroma of the palette">
      <ScatterChart
        width={SIDE_PX}
        height={SIDE_PX}
        margin={{ top: 4, right: 4, bottom: 4, left: 4 }}
        accessibilityLayer={false}
      >
        <XAxis type="number" dataKey="a" domain={[-EDGE, EDGE]} hide />
        <YAxis type="number" dataKey="b" domain={[-EDGE, EDGE]} hide />
        <ZAxis type="number" dataKey="share" domain={[0, 1]} range={[20, 1400]} />
        <ReferenceLine x={0} stroke="var(--line)" />
        <ReferenceLine y={0} stroke="var(--line)" />
        <Scatter data={dots} isAnimationActive={false}>
          {dots.map(({ hex }, index) => (
            <Cell key={`${index} ${hex}`} fill={hex} stroke="var(--ink)" strokeWidth={0.6} />
          ))}
        </Scatter>
      </ScatterChart>
      <figcaption className="text-[12px] text-muted">hue around, chroma outward, size by share</figcaption>
    </figure>
  );
}
