import {
  AmbientLight,
  Box3,
  Color,
  DirectionalLight,
  type Object3D,
  PerspectiveCamera,
  Scene,
  Sphere,
  SRGBColorSpace,
  Vector3,
  WebGLRenderer,
} from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';

const FIELD_DEG = 32;
/** From above, and from the side: three faces of a thing say more than one. */
const FROM = new Vector3(0.62, 0.36, 0.7).normalize();
/** Share of the view that the model takes, and the steps to find the distance for that. */
const FILLED = 0.92;
const FRAMING_STEPS = 6;
/** Value 5 of 10, the surround. */
const GROUND = '#797979';

function lit(model: Object3D): Scene {
  const scene = new Scene();
  scene.background = new Color(GROUND);
  const main = new DirectionalLight('#ffffff', 2.6);
  main.position.set(-0.6, 1, 0.7);
  scene.add(main, new AmbientLight('#ffffff', 0.9), model);
  return scene;
}

/** Corners of a box. */
const cornersOf = ({ min, max }: Box3): Vector3[] =>
  [0, 1, 2, 3, 4, 5, 6, 7].map(
    (bits) => new Vector3(bits & 1 ? max.x : min.x, bits & 2 ? max.y : min.y, bits & 4 ? max.z : min.z),
  );

/** A camera from which a box fills the view but for a margin. */
function cameraFor(box: Box3, aspect: number): PerspectiveCamera {
  const { center, radius } = box.getBoundingSphere(new Sphere());
  if (!(radius > 0 && Number.isFinite(radius))) throw new Error('the model has no form');
  const camera = new PerspectiveCamera(FIELD_DEG, aspect);
  let distance = radius / Math.sin((FIELD_DEG * Math.PI) / 360);
  // How large it is seen goes about with the distance: a few steps settle it.
  for (let step = 0; step < FRAMING_STEPS; step += 1) {
    camera.position.copy(center).addScaledVector(FROM, distance);
    camera.near = distance / 100;
    camera.far = distance + 3 * radius;
    camera.lookAt(center);
    camera.updateProjectionMatrix();
    camera.updateMatrixWorld();
    const reach = Math.max(
      ...cornersOf(box).map((corner) => {
        const { x, y } = corner.project(camera);
        return Math.max(Math.abs(x), Math.abs(y));
      }),
    );
    if (step < FRAMING_STEPS - 1) distance = Math.max(radius * 1.05, distance * (reach / FILLED));
  }
  return camera;
}

/** Draws a model once, whole in view. @throws Error when it cannot be read */
export async function viewOfModel(
  bytes: ArrayBuffer,
  { width, height }: { width: number; height: number },
): Promise<HTMLCanvasElement> {
  const { scene: model } = await new GLTFLoader().parseAsync(bytes, '');
  const camera = cameraFor(new Box3().setFromObject(model), width / height);
  const renderer = new WebGLRenderer({ antialias: true, preserveDrawingBuffer: true });
  try {
    renderer.outputColorSpace = SRGBColorSpace;
    renderer.setSize(width, height, false);
    renderer.render(lit(model), camera);
    const canvas = document.createElement('canvas');
    canvas.width = width;
    canvas.height = height;
    canvas.getContext('2d')!.drawImage(renderer.domElement, 0, 0);
    return canvas;
  } finally {
    renderer.dispose();
    renderer.forceContextLoss();
  }
}
