import type { Truth } from '../../truth/truth.ts';
import { Camera, type Point } from '../camera.ts';
import { isSeen, knownOf, seenShare } from '../marks.ts';
import { stageOf } from '../master.ts';
import type { Shot } from '../shots/shot.ts';
import { Sight } from '../sight.ts';

const rounded = (value: number, digits = 2): number => Number(value.toFixed(digits));
/** −180 to 180. */
const turned = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180;

/** What is known about a rendered picture of `width` × `height` pixels. */
export function truthOf(shot: Shot, file: string, mediaType: string, width: number, height: number): Truth {
  const { pose, light } = shot;
  const camera = new Camera(pose, width, height);
  const known = knownOf(shot);
  const { scene, bvh } = stageOf(shot);
  const sight = new Sight(scene.mesh, bvh);
  const marks = Object.entries(known.marks).flatMap(([name, atM]) => {
    const on = camera.project(atM);
    if (!on) return [];
    const place = { x: rounded(on.x), y: rounded(on.y) };
    return [{ name, atM: atM.map((at) => rounded(at, 5)), ...place, isSeen: isSeen(sight, camera, atM) }];
  });
  const edges = known.edges.flatMap(([from, to]) => {
    const [a, b] = [known.marks[from]!, known.marks[to]!];
    const share = seenShare(sight, camera, a, b);
    if (share < 0.5) return [];
    const [start, end] = [camera.project(a)!, camera.project(b)!];
    return [{ name: `${from} – ${to}`, from: flat(start), to: flat(end), seenShare: rounded(share) }];
  });
  return {
    ...{ file, title: shot.title, subject: shot.subject, kind: 'rendered', mediaType, width, height },
    camera: {
      ...{ azimuthDeg: pose.azimuthDeg, elevationDeg: pose.elevationDeg, rollDeg: pose.rollDeg ?? 0 },
      ...{ distanceM: pose.distanceM, focalMm: pose.focalMm, targetM: [...pose.target] },
      ...(pose.apertureM ? { apertureM: pose.apertureM } : {}),
    },
    light: {
      ...{ kind: light.kind, azimuthDeg: turned(light.azimuthDeg), elevationDeg: light.elevationDeg },
      fromCameraDeg: turned(light.azimuthDeg - pose.azimuthDeg),
      ...{ radiusDeg: light.radiusDeg, lamps: light.lamps?.length ?? 0 },
    },
    dimensionsM: { ...known.dimensionsM },
    vanishingPoints: vanishing(camera, known.axes),
    ...{ marks, edges },
  } as Truth;
}

const flat = ({ x, y }: { x: number; y: number }) => ({ x: rounded(x), y: rounded(y) });

function vanishing(camera: Camera, axes: Readonly<Record<string, Point>>) {
  return Object.entries(axes).flatMap(([axis, direction]) => {
    const at = camera.vanishingPoint(direction);
    // What lies a hundred pictures away is parallel for every purpose.
    if (!at || Math.hypot(at.x, at.y) > 100 * camera.width) return [];
    return [{ axis, ...flat(at) }];
  });
}
