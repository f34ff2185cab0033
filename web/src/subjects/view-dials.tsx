import { DISTANCES, type Picture, type Subject, type View } from '@miradero/core/schema';
import { type FormLight, proposedDistance, viewTaken } from '@miradero/core/subject';
import { Dial } from './dials.tsx';

export const NO_VIEW: View = {
  ...{ azimuthDeg: null, elevationDeg: null, lightAzimuthDeg: null, lightElevationDeg: null, distance: null },
};

/** From where a picture shows a subject, and in which light: two dials and three steps, nothing to type. */
export function ViewDials({
  picture,
  subject,
  light,
  onChange,
}: {
  picture: Picture;
  subject: Subject;
  /** What the shading of a marked round form says of the light. */
  light: FormLight | undefined;
  onChange: (view: View) => void;
}) {
  const view = picture.views[subject.id] ?? NO_VIEW;
  const set = (part: Partial<View>) => onChange({ ...view, ...part });
  const distance = proposedDistance(picture);
  const { taken } = picture.facts;
  return (
    <div className="py-1">
      <p className="font-serif text-[14px]">{subject.name}</p>
      <div className="flex gap-2">
        <Dial
          label={`View of ${subject.name}`}
          marks={['front', 'left', 'back', 'right']}
          value={
            view.azimuthDeg === null || view.elevationDeg === null
              ? undefined
              : { azimuthDeg: view.azimuthDeg, elevationDeg: view.elevationDeg }
          }
          onChange={(to) =>
            set({ azimuthDeg: to?.azimuthDeg ?? null, elevationDeg: to?.elevationDeg ?? null })
          }
        />
        <Dial
          label={`Light on ${subject.name}`}
          marks={['you', 'right', 'behind', 'left']}
          value={
            view.lightAzimuthDeg === null || view.lightElevationDeg === null
              ? undefined
              : { azimuthDeg: view.lightAzimuthDeg, elevationDeg: view.lightElevationDeg }
          }
          proposal={light}
          onChange={(to) =>
            set({ lightAzimuthDeg: to?.azimuthDeg ?? null, lightElevationDeg: to?.elevationDeg ?? null })
          }
        />
      </div>
      <div className="flex items-baseline gap-3 text-[13px]">
        <span className="text-muted">from</span>
        {DISTANCES.map((step) => (
          <button
            key={step}
            type="button"
            aria-pressed={view.distance === step}
            className="choice py-0.5"
            onClick={() => set({ distance: view.distance === step ? null : step })}
          >
            {step}
          </button>
        ))}
      </div>
      {taken && view.azimuthDeg === null && (
        <button
          type="button"
          className="block text-left text-[12px] text-muted underline underline-offset-2"
          onClick={() => onChange({ ...view, ...viewTaken(taken) })}
        >
          {Math.round(taken.azimuthDeg)}° round and {Math.round(taken.elevationDeg)}° up, as it was taken of a
          model: take that
        </button>
      )}
      {view.lensMm !== undefined && (
        <p className="text-[12px] text-muted">
          through a lens of <span className="figures">{view.lensMm} mm</span>
        </p>
      )}
      {light && view.lightAzimuthDeg === null && (
        <button
          type="button"
          className="text-left text-[12px] text-muted underline underline-offset-2"
          onClick={() =>
            set({
              lightAzimuthDeg: Math.round(light.azimuthDeg),
              lightElevationDeg: Math.round(light.elevationDeg),
            })
          }
        >
          light from about {Math.round(light.azimuthDeg)}° round and {Math.round(light.elevationDeg)}° up, by
          the shading of the marked form: take that
        </button>
      )}
      {distance && view.distance === null && (
        <button
          type="button"
          className="block text-left text-[12px] text-muted underline underline-offset-2"
          onClick={() => set({ distance: distance.value })}
        >
          {distance.value}, {distance.because}: take that
        </button>
      )}
    </div>
  );
}
